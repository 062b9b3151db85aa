'use client'

import { NumberInput } from '../forms'
import { Themed } from '../shell/Themed'

/** Where the focus really is; loaded when that is asked for. */
export function ElsewhereInput({ value, onChange }: { value: number | null; onChange: (value: number | null) => void }) {
  return (
    <Themed>
      <NumberInput value={value} onChange={onChange} />
    </Themed>
  )
}
