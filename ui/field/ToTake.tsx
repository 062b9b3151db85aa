'use client'

import type { FieldEvent, FieldProgress, Phase } from '@/core/field'
import type { FocusLine } from '@/core/plan'
import type { BodySeries, Readings, SheetPlan } from '@/core/sheet'
import { NextFrame } from './NextFrame'
import { NextPart } from './NextPart'
import { readingOf } from './reading'
import { TouchButton } from './TouchButton'
import styles from './field.module.css'

interface Props {
  progress: FieldProgress
  planned: SheetPlan
  focusLine: FocusLine
  readings: Readings
  phases: Phase[]
  busy: boolean
  /** Where the body takes the series by itself. */
  body?: BodySeries
  onTaken: (position?: number) => void
  onEntry: (event: FieldEvent) => unknown
}

/** What to do now: the next frame, the next press of the body's own bracketing, going on after a rest, or closing gaps. */
export function ToTake({ progress, planned, focusLine, readings, phases, busy, body, onTaken, onEntry }: Props) {
  const { ahead, next, paused, complete } = progress
  const of = next - 1 + ahead.length
  if (paused)
    return (
      <section className={styles.next}>
        <p className={styles.words}>
          Pausing after frame {next - 1} of {of}
        </p>
        <TouchButton look="primary" className={styles.big} onClick={() => onEntry({ kind: 'resumed' })}>
          Continue
        </TouchButton>
      </section>
    )
  if (ahead.length === 0)
    return (
      <section className={styles.next}>
        <p className={styles.words}>{complete ? 'The plan is covered.' : 'You reached the end, but there is a gap to close.'}</p>
      </section>
    )
  if (body) {
    const perFrame_s = planned.plan.duration_s / planned.plan.frameCount
    return <NextPart body={body} taken={next - 1} perFrame_s={perFrame_s} onTaken={(frames) => onEntry({ kind: 'bracketed', frames })} />
  }
  return (
    <NextFrame
      ahead={ahead}
      number={next}
      of={of}
      readings={readings}
      phases={phases}
      reading={readingOf(planned, focusLine)}
      busy={busy}
      onTaken={onTaken}
      onMissed={() => onEntry({ kind: 'missed' })}
    />
  )
}
