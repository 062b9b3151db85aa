'use client'

import { Checkbox, Input, Radio, Select } from 'antd'
import { useState, type ReactNode } from 'react'
import type { PlanSheet } from '@/core/sheet'
import { exposureText, parseNumber } from '@/core/units'
import { NumberInput } from '../../forms'
import { bareUnit, editText, readLength_mm, useUnits, type LengthScale } from '../../units'
import { usePlan, type PlanState } from '../planStore'
import styles from './inputs.module.css'

/** Keys of the sheet whose value is a T. */
type KeyOf<T> = { [K in keyof PlanSheet]: PlanSheet[K] extends T ? K : never }[keyof PlanSheet]
type NumberKey = KeyOf<number | null>

interface FrameProps {
  label: string
  field: string
  error?: string
  hint?: ReactNode
  children: (id: string) => ReactNode
}

/** A labelled field that says at its own place what to mend. */
export function Field({ label, field, error, hint, children }: FrameProps) {
  const id = `plan-${field}`
  return (
    <div className={styles.field}>
      <label htmlFor={id}>{label}</label>
      {children(id)}
      {error ? (
        <p role="alert" className={styles.error}>
          {error}
        </p>
      ) : (
        hint && <p className={styles.hint}>{hint}</p>
      )}
    </div>
  )
}

/** A line of advice below a field; drawn again only when its words change. */
export function Hint({ of }: { of: (state: PlanState) => string | false | undefined }) {
  const text = usePlan(of)
  return text ? <p className={styles.hint}>{text}</p> : null
}

/** The sheet's value, error and setter for one key. */
function useField<K extends keyof PlanSheet>(name: K) {
  const value = usePlan((state) => state.sheet[name])
  const error = usePlan((state) => (state.error?.field === name ? state.error.error : undefined))
  const change = usePlan((state) => state.change)
  return { name, value, error, change }
}

interface NumberProps {
  label: string
  unit?: string
  step?: number
  hint?: ReactNode
}

const NO_NUMBER = 'This is not a number. Write 5.6, 5,6, f/5.6, 2:1 or 1/13.'

export function NumberField({ name, label, unit, step = 1, hint }: NumberProps & { name: NumberKey }) {
  const { value, error, change } = useField(name)
  return (
    <Field label={label} field={name} error={Number.isNaN(value) ? NO_NUMBER : error} hint={hint}>
      {(id) => (
        <NumberInput id={id} value={value} onChange={(next) => change({ [name]: next })} step={step} suffix={unit} invalid={error !== undefined} />
      )}
    </Field>
  )
}

interface LengthProps {
  label: string
  scale?: LengthScale
  placeholder?: string
  hint?: ReactNode
}

const UNREADABLE = 'This is not a length. Write 12 mm, 1.5 m, 3 5/16" or 2\' 4".'

/** A length in the units that are switched on; takes `1.5 m` and `3 5/16"` in either. */
export function LengthField({ name, label, scale = 'close', placeholder, hint }: LengthProps & { name: NumberKey }) {
  const { value, error, change } = useField(name)
  const { system } = useUnits()
  return (
    <Field label={label} field={name} error={Number.isNaN(value) ? UNREADABLE : error} hint={hint}>
      {(id) => (
        <LengthInput
          id={id}
          value={value}
          onChange={(next) => change({ [name]: next })}
          scale={scale}
          system={system}
          placeholder={placeholder}
          invalid={error !== undefined}
        />
      )}
    </Field>
  )
}

interface LengthInputProps {
  id?: string
  label?: string
  value: number | null
  onChange: (value_mm: number | null) => void
  scale: LengthScale
  system: 'metric' | 'inches'
  placeholder?: string
  invalid?: boolean
}

/** While it is being typed the text is the typist's; afterwards it is the value's. */
export function LengthInput({ id, label, value, onChange, scale, system, placeholder, invalid }: LengthInputProps) {
  const [typed, setTyped] = useState<string>()
  const unit = bareUnit(scale, system)
  return (
    <Input
      id={id}
      aria-label={label}
      value={typed ?? editText(value, scale, system)}
      onChange={(event) => {
        setTyped(event.target.value)
        onChange(readLength_mm(event.target.value, scale, system))
      }}
      onBlur={() => !Number.isNaN(value) && setTyped(undefined)}
      suffix={unit}
      placeholder={placeholder}
      status={invalid || Number.isNaN(value) ? 'error' : undefined}
      autoComplete="off"
    />
  )
}

/** An exposure time, written as cameras do: `1/8`, `0.4`, `2`. */
export function ExposureField({ name, label }: { name: NumberKey; label: string }) {
  const { value, error, change } = useField(name)
  const [typed, setTyped] = useState<string>()
  return (
    <Field label={label} field={name} error={Number.isNaN(value) ? 'This is not a time. Write 1/8, 0.4 or 2.' : error}>
      {(id) => (
        <Input
          id={id}
          value={typed ?? (value === null || Number.isNaN(value) ? '' : exposureText(value).replace(' s', ''))}
          onChange={(event) => {
            setTyped(event.target.value)
            change({ [name]: readExposure_s(event.target.value) })
          }}
          onBlur={() => !Number.isNaN(value) && setTyped(undefined)}
          suffix="s"
          status={error ? 'error' : undefined}
          autoComplete="off"
        />
      )}
    </Field>
  )
}

/** Seconds of `1/8`, `0.4` or `2 s`; null where nothing stands there, NaN where it is no time. */
export function readExposure_s(text: string): number | null {
  const bare = text.trim().replace(/\s*s$/, '')
  return bare === '' ? null : parseNumber(bare)
}

interface Option {
  value: string
  label: string
}

/** One of many, as a list to open. */
export function SelectField({ name, label, options, hint }: { name: KeyOf<string>; label: string; options: Option[]; hint?: ReactNode }) {
  const { value, error, change } = useField(name)
  return (
    <Field label={label} field={name} error={error} hint={hint}>
      {(id) => (
        <Select
          id={id}
          value={value as string}
          onChange={(next) => change({ [name]: next })}
          options={options}
          status={error ? 'error' : undefined}
          className={styles.wide}
        />
      )}
    </Field>
  )
}

/** One of a few, all in view. */
export function RadioField({ name, label, options }: { name: KeyOf<string>; label: string; options: Option[] }) {
  const { value, error, change } = useField(name)
  return (
    <div className={styles.field}>
      <Radio.Group aria-label={label} value={value} onChange={(event) => change({ [name]: event.target.value })} options={options} />
      {error && (
        <p role="alert" className={styles.error}>
          {error}
        </p>
      )}
    </div>
  )
}

export function CheckField({ name, label }: { name: KeyOf<boolean>; label: string }) {
  const { value, error, change } = useField(name)
  return (
    <div className={styles.field}>
      <Checkbox checked={value as boolean} onChange={(event) => change({ [name]: event.target.checked })}>
        {label}
      </Checkbox>
      {error && (
        <p role="alert" className={styles.error}>
          {error}
        </p>
      )}
    </div>
  )
}
