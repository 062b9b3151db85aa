'use client'

import { Input } from 'antd'
import { useSheet } from '../usePlanSheet'
import { Field, LengthField, RadioField } from './Field'
import { MeasureAid } from './MeasureAid'
import { Targets } from './Targets'
import styles from './inputs.module.css'

/** What is photographed, and how deep it is or how far. */
export function SubjectInputs() {
  const { sheet, words, changeWords, error } = useSheet()
  return (
    <fieldset>
      <legend>Subject</legend>
      <Field label="Title" field="title" error={error?.field === 'title' ? error.error : undefined}>
        {(id) => (
          <Input
            id={id}
            value={words.title}
            onChange={(event) => changeWords({ title: event.target.value })}
            placeholder="What it is and where it lies"
            status={error?.field === 'title' ? 'error' : undefined}
          />
        )}
      </Field>
      <RadioField
        name="kind"
        label="How the subject is measured"
        options={[
          { value: 'depth', label: 'Close up, by depth' },
          { value: 'range', label: 'By distances' },
        ]}
      />
      {sheet.kind === 'depth' ? (
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
          <RadioField
            name="from"
            label="Measured from"
            options={[
              { value: 'sensor', label: 'from the sensor mark' },
              { value: 'lens', label: 'from the lens' },
            ]}
          />
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
