'use client'

import { useState } from 'react'
import { spokenPartOf } from '@/core/field'
import type { BodySeries } from '@/core/sheet'
import { durationText } from '@/core/units'
import { TouchButton } from './TouchButton'
import { useAids } from './aids'
import { useAloud } from './useAloud'
import styles from './field.module.css'

interface Props {
  body: BodySeries
  /** Planned frames that were taken before. */
  taken: number
  perFrame_s: number
  onTaken: (frames: number) => void
}

/** One press of the shutter, after which the body takes a whole part of the series by itself. */
export function NextPart({ body, taken, perFrame_s, onTaken }: Props) {
  const [pressed, setPressed] = useState(false)
  const part = partAfter(body, taken)
  const { frames, fresh, begin } = body.parts[part]
  const many = body.parts.length > 1
  const seconds = frames * perFrame_s
  const { aloud } = useAids()
  useAloud(aloud, spokenPartOf({ part: part + 1, of: body.parts.length, step: body.step, frames, begin, seconds }, pressed), !pressed)
  return (
    <section className={styles.next} aria-label="The series to take now">
      <p className={styles.count}>
        {many ? `Part ${part + 1}` : 'One press'} <span>{many ? `of ${body.parts.length}` : 'takes the whole series'}</span>
      </p>
      <p className={styles.words} role="status">
        {pressed ? 'Leave it alone until it stops. Did it take them all?' : 'Press the shutter once'}
      </p>
      <p className={styles.reading}>
        <small>Set in the body</small>
        step {body.step}, {frames} frames
      </p>
      <dl className={styles.facts}>
        <div>
          <dt>Begin at</dt>
          <dd>{begin}</dd>
        </div>
        <div>
          <dt>Takes about</dt>
          <dd>{durationText(seconds)}</dd>
        </div>
      </dl>
      <TouchButton
        look="primary"
        className={styles.big}
        data-phase={pressed ? 'confirm' : 'shutter'}
        onClick={() => {
          if (pressed) onTaken(fresh)
          setPressed(!pressed)
        }}
      >
        {pressed ? `Taken, all ${frames}` : 'Pressed'}
      </TouchButton>
      {pressed && <TouchButton onClick={() => setPressed(false)}>Missed</TouchButton>}
      <ol className={styles.how}>
        {body.how.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ol>
    </section>
  )
}

/** Which part is next once so many planned frames were taken. */
function partAfter({ parts }: BodySeries, taken: number): number {
  let before = 0
  const next = parts.findIndex(({ fresh }) => (before += fresh) > taken)
  return next < 0 ? parts.length - 1 : next
}
