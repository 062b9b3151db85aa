'use client'

import { InputNumber } from 'antd'
import { Themed } from '../shell/Themed'

/** Where the focus really is; loaded when that is asked for. */
export function ElsewhereInput({ value, onChange }: { value: number | null; onChange: (value: number | null) => void }) {
  return (
    <Themed>
      <InputNumber value={value} onChange={onChange} size="large" />
    </Themed>
  )
}
