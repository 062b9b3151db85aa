'use client'

import type { TakenFrame } from '@/core/field'
import type { Readings } from '@/core/sheet'
import { depthCss, rampPlace } from '@/core/ramp'
import { TouchButton } from './TouchButton'
import styles from './field.module.css'

const WHAT: Record<TakenFrame['what'], string> = { frame: '', repeat: 'again', test: 'test frame', divider: 'divider', spare: 'spare' }

/** What was taken, the newest first, each with its time and where the focus was. */
export function LogList({
  taken,
  count,
  readings,
  onMistake,
}: {
  taken: TakenFrame[]
  count: number
  readings: Readings
  onMistake: (id: string) => void
}) {
  if (taken.length === 0) return null
  const numbered = taken.map((entry, k) => ({ ...entry, number: taken.slice(0, k + 1).filter(({ what }) => what === 'frame').length }))
  return (
    <ol className={styles.log} aria-label="Taken">
      {numbered.reverse().map(({ id, at, what, frame, differs, number }) => (
        <li key={id} style={{ borderLeftColor: frame ? depthCss(rampPlace(Math.min(count, frame.index) - 1, count)) : 'transparent' }}>
          <span>{what === 'frame' ? number : '·'}</span>
          <span>
            {frame ? readings.of(frame, number - 1)[0] : ''} {WHAT[what]}
            {differs && <em> not as planned</em>}
          </span>
          <time dateTime={at}>{new Date(at).toLocaleTimeString('en-GB')}</time>
          <TouchButton look="text" onClick={() => onMistake(id)} aria-label={`Frame ${number} was a mistake`}>
            Undo
          </TouchButton>
        </li>
      ))}
    </ol>
  )
}
