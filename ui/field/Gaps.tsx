'use client'

import type { FieldGap } from '@/core/field'
import type { PlannedFrame } from '@/core/plan'
import type { Readings } from '@/core/sheet'
import { TouchButton } from './TouchButton'
import styles from './field.module.css'

/** Where frames are missing between two that were taken, and the way back. A tick fills the gap and changes nothing else. */
export function Gaps({ gaps, readings, onFilled }: { gaps: FieldGap[]; readings: Readings; onFilled: (frame: PlannedFrame) => void }) {
  return gaps.map(({ after, before, fill }) => (
    <p key={before.near_mm} className={styles.gap}>
      ▲ Gap: go back to <strong>{readings.of(fill[0], fill[0].index - 1)[0]}</strong>
      {fill.length > 1 && ` and ${fill.length - 1} more`}, between {readings.of(after, 0)[0]} and {readings.of(before, 0)[0]}.{' '}
      <TouchButton onClick={() => onFilled(fill[0])}>Taken, gap filled</TouchButton>
    </p>
  ))
}
