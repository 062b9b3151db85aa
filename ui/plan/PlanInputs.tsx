'use client'

import { Input, InputNumber, Radio, Select } from 'antd'
import type { ReactNode } from 'react'
import { BODIES, LENSES } from '@/demo/kit'
import type { Draft } from './draft'
import styles from './plan.module.css'

interface Props {
  draft: Draft
  onChange: (change: Partial<Draft>) => void
  /** The field to mend and the sentence for it. */
  error?: { field: string; error: string }
}

const options = (items: { name: string }[]) => items.map(({ name }) => ({ value: name, label: name }))

/** The plan's fields in the order in which people think: subject, kit, sharpness, mover. */
export function PlanInputs({ draft, onChange, error }: Props) {
  const number = (key: keyof Draft & `${string}`, label: string, unit: string, field: string, step = 1) => (
    <Field label={label} field={field} error={error}>
      {(id, invalid) => (
        <InputNumber
          id={id}
          value={draft[key] as number | null}
          onChange={(value) => onChange({ [key]: value })}
          step={step}
          suffix={unit}
          status={invalid ? 'error' : undefined}
          style={{ width: '100%' }}
        />
      )}
    </Field>
  )
  return (
    <>
      <fieldset>
        <legend>Subject</legend>
        <Field label="Title" field="title" error={error}>
          {(id, invalid) => (
            <Input
              id={id}
              value={draft.title}
              onChange={(e) => onChange({ title: e.target.value })}
              placeholder="What it is and where it lies"
              status={invalid ? 'error' : undefined}
            />
          )}
        </Field>
        <Radio.Group
          value={draft.kind}
          onChange={(e) => onChange({ kind: e.target.value })}
          options={[
            { value: 'depth', label: 'Close up, by depth' },
            { value: 'range', label: 'By distances' },
          ]}
          className={styles.gap}
        />
        {draft.kind === 'depth' ? (
          <>
            {number('depth_mm', 'Depth, nearest to farthest part', 'mm', 'subject.depth_mm')}
            {number('magnification', 'Magnification', ': 1', 'optics.magnification', 0.1)}
          </>
        ) : (
          <>
            {number('near_mm', `Nearest point, from the ${draft.from}`, 'mm', 'subject.near_mm', 10)}
            {number('far_mm', 'Farthest point, empty for infinity', 'mm', 'subject.far_mm', 100)}
          </>
        )}
      </fieldset>
      <fieldset>
        <legend>Kit</legend>
        <Field label="Body" field="camera" error={error}>
          {(id) => <Select id={id} value={draft.body} onChange={(body) => onChange({ body })} options={options(BODIES)} className={styles.wide} />}
        </Field>
        <Field label="Lens" field="optics.focalLength_mm" error={error}>
          {(id) => <Select id={id} value={draft.lens} onChange={(lens) => onChange({ lens })} options={options(LENSES)} className={styles.wide} />}
        </Field>
        {number('fNumber', 'Aperture, as marked', 'f-number', 'optics.fNumber', 0.5)}
      </fieldset>
      <fieldset>
        <legend>Sharpness and safety</legend>
        {number('blur_pixels', 'Blur allowed', 'pixels', 'sharpness.count')}
        {number('overlap_percent', 'Overlap of neighbouring slices', '%', 'overlap', 5)}
        <div className={styles.pair}>
          {number('leadIn_slices', 'Lead-in', 'slices', 'leadIn_slices', 0.5)}
          {number('runOut_slices', 'Run-out', 'slices', 'runOut_slices', 0.5)}
        </div>
      </fieldset>
      {draft.kind === 'depth' && (
        <fieldset>
          <legend>Mover</legend>
          <Radio.Group
            value={draft.mover}
            onChange={(e) => onChange({ mover: e.target.value })}
            options={[
              { value: 'rail', label: 'Rail' },
              { value: 'ring', label: 'Focus ring or drive' },
            ]}
            className={styles.gap}
          />
          {draft.mover === 'rail' && number('resolution_mm', 'Smallest step of the rail', 'mm', 'mover.resolution_mm', 0.005)}
        </fieldset>
      )}
    </>
  )
}

interface FieldProps {
  label: string
  field: string
  error?: { field: string; error: string }
  children: (id: string, invalid: boolean) => ReactNode
}

/** A labelled field that says at its own place what to mend. */
function Field({ label, field, error, children }: FieldProps) {
  const invalid = error?.field === field
  const id = `plan-${field.replace('.', '-')}`
  return (
    <div className={styles.field}>
      <label htmlFor={id}>{label}</label>
      {children(id, invalid)}
      {invalid && (
        <p role="alert" className={styles.error}>
          {error.error}
        </p>
      )}
    </div>
  )
}
