'use client'

import type { UnitSystem } from '@/core/units'
import { useUnits } from './UnitsProvider'
import styles from './units.module.css'

const UNITS: { value: UnitSystem; label: string; spoken: string }[] = [
  { value: 'metric', label: 'mm', spoken: 'Metric' },
  { value: 'inches', label: 'in', spoken: 'Inches' },
]

/** Metric or inches, for every screen. */
export function UnitSwitch() {
  const { system, choose } = useUnits()
  return (
    <fieldset className={styles.switch}>
      <legend>Units</legend>
      {UNITS.map(({ value, label, spoken }) => (
        <label key={value} title={spoken}>
          <input type="radio" name="units" value={value} checked={system === value} onChange={() => choose(value)} />
          <span>{label}</span>
        </label>
      ))}
    </fieldset>
  )
}
