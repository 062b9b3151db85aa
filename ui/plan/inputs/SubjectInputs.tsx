'use client'

import { Input, Radio } from 'antd'
import dynamic from 'next/dynamic'
import { usePlan } from '../planStore'
import { Field, LengthField, RadioField } from './Field'
import { Targets } from './Targets'
import styles from './inputs.module.css'

const KINDS = [
  { value: 'depth', label: 'Close up, by depth' },
  { value: 'range', label: 'By distances' },
]

const ORIGINS = [
  { value: 'sensor', label: 'from the sensor mark' },
  { value: 'lens', label: 'from the lens' },
]

/** Aids are opened now and then; what they are made of comes after the fields. */
const MeasureAid = dynamic(() => import('./MeasureAid').then((part) => part.MeasureAid), { ssr: false })

/** What is photographed, and how deep it is or how far. */
export function SubjectInputs() {
  const kind = usePlan(({ sheet }) => sheet.kind)
  const changeKind = usePlan((state) => state.changeKind)
  const isNew = usePlan((state) => state.isNew)
  const words = usePlan((state) => state.words)
  const changeWords = usePlan((state) => state.changeWords)
  const error = usePlan((state) => (state.error?.field === 'title' ? state.error.error : undefined))
  return (
    <fieldset>
      <legend>Subject</legend>
      <Field label="Title" field="title" error={error}>
        {(id) => (
          <Input
            id={id}
            value={words.title}
            onChange={(event) => changeWords({ title: event.target.value })}
            autoFocus={isNew}
            placeholder="What it is and where it lies"
            status={error ? 'error' : undefined}
          />
        )}
      </Field>
      <div className={styles.field}>
        <Radio.Group aria-label="How the subject is measured" value={kind} onChange={(event) => changeKind(event.target.value)} options={KINDS} />
      </div>
      {kind === 'depth' ? (
        <>
          <LengthField name="depth_mm" label="Depth, nearest to farthest part" />
          <MeasureAid />
          <div className={styles.pair}>
            <LengthField name="width_mm" label="Width" />
            <LengthField name="background_mm" label="Background behind" placeholder="none in frame" />
          </div>
        </>
      ) : (
        <>
          <div className={styles.pair}>
            <LengthField name="near_mm" label="Nearest point" scale="far" />
            <LengthField name="far_mm" label="Farthest point" scale="far" placeholder="∞" />
          </div>
          <RadioField name="from" label="Measured from" options={ORIGINS} />
          <MeasureAid />
          <Targets />
        </>
      )}
      <Field label="Notes" field="subject">
        {(id) => (
          <Input.TextArea id={id} value={words.subject} onChange={(event) => changeWords({ subject: event.target.value })} autoSize maxLength={300} />
        )}
      </Field>
    </fieldset>
  )
}
