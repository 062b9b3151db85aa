'use client'

import { Button, Radio } from 'antd'
import { useState } from 'react'
import { NumberInput } from '../../forms'
import { useUnits } from '../../units'
import { usePlan } from '../planStore'
import { LengthInput } from './Field'
import styles from './inputs.module.css'

type Way = 'tape' | 'rail' | 'dial'

/** Depth or distances from two readings: a tape or lens scale, a rail's ruler, or turns and marks of its dial. */
export function MeasureAid() {
  const change = usePlan((state) => state.change)
  const { system, length } = useUnits()
  const rail = usePlan(({ kit, sheet }) => kit.rails.find(({ name, kind }) => name === sheet.rail && kind === 'dial'))
  const range = usePlan(({ sheet }) => sheet.kind === 'range')
  const [way, setWay] = useState<Way>('tape')
  const [ends, setEnds] = useState<[number | null, number | null]>([null, null])
  const reading = (end: 0 | 1) => (value: number | null) => setEnds((before) => (end === 0 ? [value, before[1]] : [before[0], value]))
  const [near, far] = ends
  const both = near !== null && far !== null && !Number.isNaN(near) && !Number.isNaN(far) && near !== far
  const depth = both ? Math.abs(far - near) : 0

  const take = () => {
    if (range) return change({ near_mm: Math.min(near!, far!), far_mm: Math.max(near!, far!), from: 'sensor' })
    change(way === 'tape' ? { depth_mm: depth } : { depth_mm: depth, railStart_mm: way === 'rail' ? near : 0 })
  }

  return (
    <details className={styles.aid}>
      <summary>From two readings…</summary>
      {!range && (
        <Radio.Group
          aria-label="Read from"
          value={way}
          onChange={(event) => {
            setWay(event.target.value)
            // A dial stands at zero until it is said otherwise; the other readings must be given.
            setEnds(event.target.value === 'dial' ? [0, 0] : [null, null])
          }}
          options={[
            { value: 'tape', label: 'tape or lens scale' },
            { value: 'rail', label: 'rail’s ruler' },
            ...(rail ? [{ value: 'dial', label: 'rail’s dial' }] : []),
          ]}
        />
      )}
      {way === 'dial' && rail && !range ? (
        <>
          <DialReading label="Nearest part sharp" onChange={reading(0)} pitch_mm={rail.pitch_mm!} marks={rail.marksPerTurn!} />
          <DialReading label="Farthest part sharp" onChange={reading(1)} pitch_mm={rail.pitch_mm!} marks={rail.marksPerTurn!} />
        </>
      ) : (
        <div className={styles.pair}>
          <label>
            Nearest
            <LengthInput value={near} onChange={reading(0)} scale={range ? 'far' : 'close'} system={system} label="Nearest reading" />
          </label>
          <label>
            Farthest
            <LengthInput value={far} onChange={reading(1)} scale={range ? 'far' : 'close'} system={system} label="Farthest reading" />
          </label>
        </div>
      )}
      <Button disabled={!both} onClick={take} block>
        {both
          ? range
            ? `Take ${length(Math.min(near, far))} to ${length(Math.max(near, far))}`
            : `Take ${length(depth)} of depth`
          : 'Enter both readings'}
      </Button>
    </details>
  )
}

function DialReading({
  label,
  onChange,
  pitch_mm,
  marks,
}: {
  label: string
  onChange: (mm: number | null) => void
  pitch_mm: number
  marks: number
}) {
  const [reading, setReading] = useState<{ turns: number | null; mark: number | null }>({ turns: 0, mark: 0 })
  const set = (part: Partial<typeof reading>) => {
    const next = { ...reading, ...part }
    setReading(next)
    onChange(next.turns === null || next.mark === null ? null : (next.turns + next.mark / marks) * pitch_mm)
  }
  return (
    <div className={styles.pair} role="group" aria-label={label}>
      <label>
        {label}, turns
        <NumberInput value={reading.turns} least={0} onChange={(turns) => set({ turns })} />
      </label>
      <label>
        marks
        <NumberInput value={reading.mark} least={0} onChange={(mark) => set({ mark })} />
      </label>
    </div>
  )
}
