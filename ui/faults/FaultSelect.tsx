'use client'

import { Select } from 'antd'
import { FAULT_WORDS, type Fault } from '@/core/simulate'

interface Props {
  label: string
  value: string[]
  onChange: (kinds: string[]) => void
  /** Kinds that cannot happen here. */
  without?: Fault['kind'][]
}

/** Chooses what goes wrong with the simulated devices, by what a photographer calls it. */
export function FaultSelect({ label, value, onChange, without = [] }: Props) {
  const kinds = Object.entries(FAULT_WORDS).filter(([kind]) => !without.some((other) => other === kind))
  return (
    <Select
      mode="multiple"
      aria-label={label}
      showSearch={{ optionFilterProp: 'label' }}
      placeholder="No faults; choose some to try"
      value={value}
      onChange={onChange}
      options={kinds.map(([kind, words]) => ({ value: kind, label: words }))}
    />
  )
}
