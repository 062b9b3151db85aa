'use client'

import { Segmented } from 'antd'
import type { UnitSystem } from '@/core/units'
import { useUnits } from './UnitsProvider'

/** Metric or inches, for every screen. */
export function UnitSwitch() {
  const { system, choose } = useUnits()
  return (
    <Segmented<UnitSystem>
      aria-label="Units"
      size="small"
      value={system}
      onChange={choose}
      options={[
        { value: 'metric', label: 'mm' },
        { value: 'inches', label: 'in' },
      ]}
    />
  )
}
