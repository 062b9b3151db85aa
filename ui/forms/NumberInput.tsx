'use client'

import { Input } from 'antd'
import { useState, type KeyboardEvent } from 'react'
import { parseNumber, significant } from '@/core/units'

interface Props {
  id?: string
  'aria-label'?: string
  value?: number | null
  /** null where nothing stands there, NaN where it is no number. */
  onChange?: (value: number | null) => void
  /** What an arrow key adds. */
  step?: number
  least?: number
  suffix?: string
  placeholder?: string
  disabled?: boolean
  invalid?: boolean
}

/**
 * A number as people write it: a comma or a point, `f/5.6`, `2:1`, `1/13`. While it is being typed the text is the typist's; what cannot
 * be read stays there to be mended.
 */
export function NumberInput({ value = null, onChange, step = 1, least = -Infinity, invalid, ...rest }: Props) {
  const [typed, setTyped] = useState<string>()
  const set = (text: string) => {
    setTyped(text)
    onChange?.(text.trim() === '' ? null : parseNumber(text))
  }
  const onKeyDown = (event: KeyboardEvent) => {
    const way = { ArrowUp: 1, ArrowDown: -1 }[event.key]
    if (!way || Number.isNaN(value)) return
    event.preventDefault()
    setTyped(undefined)
    onChange?.(Math.max(least, Number(((value ?? 0) + way * step).toPrecision(12))))
  }
  return (
    <Input
      {...rest}
      role="spinbutton"
      inputMode="decimal"
      aria-valuenow={value === null || Number.isNaN(value) ? undefined : value}
      aria-invalid={invalid || Number.isNaN(value) || undefined}
      value={typed ?? (value === null || Number.isNaN(value) ? '' : plain(value))}
      onChange={(event) => set(event.target.value)}
      onKeyDown={onKeyDown}
      onBlur={() => !Number.isNaN(value) && setTyped(undefined)}
      status={invalid || Number.isNaN(value) ? 'error' : undefined}
      autoComplete="off"
    />
  )
}

/** A number without the noise of binary fractions. */
const plain = (value: number) => (Number.isFinite(value) ? significant(value, 10) : '∞')
