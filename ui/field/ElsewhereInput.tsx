'use client'

import { InputNumber } from 'antd'

/** Where the focus really is; loaded when that is asked for. */
export function ElsewhereInput({ value, onChange }: { value: number | null; onChange: (value: number | null) => void }) {
  return <InputNumber value={value} onChange={onChange} size="large" />
}
