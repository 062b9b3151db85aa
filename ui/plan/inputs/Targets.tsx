'use client'

import { DeleteOutlined, PlusOutlined } from '@ant-design/icons'
import { Button, Input } from 'antd'
import { useUnits } from '../../units'
import { usePlan } from '../planStore'
import { LengthInput } from './Field'
import styles from './inputs.module.css'

/** Named things that must be sharp, each at its distance, measured as the plan is; an empty distance is the horizon. */
export function Targets() {
  const targets = usePlan(({ sheet }) => sheet.targets)
  const from = usePlan(({ sheet }) => sheet.from)
  const near_mm = usePlan(({ sheet }) => sheet.near_mm)
  const change = usePlan((state) => state.change)
  const { system } = useUnits()
  const set = (k: number, part: Partial<(typeof targets)[number]>) =>
    change({ targets: targets.map((target, n) => (n === k ? { ...target, ...part } : target)) })
  return (
    <div className={styles.field}>
      <span className={styles.label}>Must be sharp: what, and how far from the {from}</span>
      {targets.map(({ name, distance_mm }, k) => (
        <div key={k} className={styles.target}>
          <Input aria-label={`Target ${k + 1}`} value={name} maxLength={80} onChange={(event) => set(k, { name: event.target.value })} />
          <LengthInput
            label={`Distance of target ${k + 1}`}
            value={distance_mm}
            onChange={(mm) => set(k, { distance_mm: mm })}
            scale="far"
            system={system}
            placeholder="∞"
          />
          <Button
            type="text"
            aria-label={`Remove target ${k + 1}`}
            icon={<DeleteOutlined />}
            onClick={() => change({ targets: targets.filter((_, n) => n !== k) })}
          />
          {distance_mm !== null && near_mm !== null && distance_mm < near_mm && (
            <p role="alert" className={styles.error}>
              This is nearer than the nearest point. Move that one, or correct this.
            </p>
          )}
        </div>
      ))}
      <Button size="small" type="dashed" icon={<PlusOutlined />} onClick={() => change({ targets: [...targets, { name: '', distance_mm: null }] })}>
        Add a target
      </Button>
    </div>
  )
}
