'use client'

import { lazy, Suspense, useState } from 'react'
import { spokenOf, type Phase } from '@/core/field'
import type { PlannedFrame } from '@/core/plan'
import type { Readings } from '@/core/sheet'
import { TouchButton } from './TouchButton'
import { useAids } from './aids'
import { useAloud } from './useAloud'
import { usePhases } from './usePhases'
import styles from './field.module.css'

const ElsewhereInput = lazy(() => import('./ElsewhereInput').then((part) => ({ default: part.ElsewhereInput })))

interface Props {
  ahead: PlannedFrame[]
  /** Number of the first of them on the run card, and of the last. */
  number: number
  of: number
  readings: Readings
  phases: Phase[]
  /** How a differing focus is entered, and how it becomes a position of the plan. */
  reading: { label: string; toPosition: (value: number) => number }
  /** The devices take frames by themselves: the hand leaves them alone. */
  busy: boolean
  onTaken: (position?: number) => void
  onMissed: () => void
}

const DO: Record<Phase['kind'], { button: string; words: string }> = {
  filterOff: { button: 'Filter is off', words: 'Take the filter off' },
  move: { button: 'Focus is in place', words: 'Move the focus to' },
  filterOn: { button: 'Filter is on', words: 'Put the filter on' },
  wait: { button: 'Hands off', words: 'Hands off, let it settle' },
  recycle: { button: 'Charging', words: 'Hands off, the flash is charging' },
  shutter: { button: 'Pressed', words: 'Press the shutter now' },
  expose: { button: 'Exposing', words: 'Exposing' },
  confirm: { button: 'Taken', words: 'Press the shutter now' },
}

/** The frame to take now, in the mover's own terms, the one big button through it, and what comes after. */
export function NextFrame({ ahead, number, of, readings, phases, reading, busy, onTaken, onMissed }: Props) {
  const [first, second] = ahead
  const [differs, setDiffers] = useState<number | null>(null)
  const [asking, setAsking] = useState(false)
  const [missed, setMissed] = useState(false)
  const { phase, left_s, next, again, restart } = usePhases(phases, `${number} ${first.near_mm}`, () => {
    onTaken(differs === null ? undefined : reading.toPosition(differs))
    setDiffers(null)
    setAsking(false)
    setMissed(false)
  })
  const [main, ...facts] = factsOf(readings, first, number - 1)
  const counted = phase?.seconds !== undefined
  // After a count-down the press is over: what is asked is how it went.
  const asked = phase?.kind === 'confirm' && phases.some(({ kind }) => kind === 'expose')
  const { aloud } = useAids()
  const spoken = phase && !busy ? spokenOf(phase, { number, first: phase === phases[0], reading: main.value, asked }) : ''
  useAloud(aloud, spoken, phase?.kind === 'shutter' || (phase?.kind === 'confirm' && !asked))
  const missedIt = () => {
    setMissed(true)
    again(phases.findIndex(({ kind }) => kind === 'shutter' || kind === 'confirm'))
  }
  return (
    <section className={styles.next} aria-label="The frame to take now">
      <p className={styles.count}>
        Frame {number} <span>of {of}</span>
      </p>
      <p className={styles.words} role="status">
        {missed && (phase?.kind === 'shutter' || phase?.kind === 'confirm') && 'Not recorded. '}
        {asked ? 'Was the frame taken?' : phase ? DO[phase.kind].words : 'Taken'}
      </p>
      <p className={styles.reading}>
        <small>{main.title}</small>
        {main.value}
      </p>
      <dl className={styles.facts}>
        {facts.map(({ title, value }) => (
          <div key={title}>
            <dt>{title}</dt>
            <dd>{value}</dd>
          </div>
        ))}
      </dl>
      <TouchButton look="primary" className={styles.big} disabled={busy || !phase || counted} onClick={next} data-phase={phase?.kind}>
        {counted ? `${DO[phase.kind].button} ${left_s < 10 ? left_s.toFixed(1) : Math.round(left_s)} s` : phase ? DO[phase.kind].button : 'Taken'}
      </TouchButton>
      {phase?.kind === 'confirm' && (
        <TouchButton disabled={busy} onClick={missedIt}>
          Missed
        </TouchButton>
      )}
      <div className={styles.small}>
        {phase && phase.kind !== 'move' && phase.kind !== 'filterOff' && (
          <TouchButton look="text" onClick={restart}>
            Start this frame again
          </TouchButton>
        )}
        <TouchButton look="text" onClick={onMissed}>
          Skip this frame
        </TouchButton>
        <TouchButton look="text" onClick={() => setAsking(!asking)} aria-expanded={asking}>
          Focus is elsewhere
        </TouchButton>
      </div>
      {asking && (
        <label className={styles.elsewhere}>
          {reading.label}
          <Suspense>
            <ElsewhereInput value={differs} onChange={setDiffers} />
          </Suspense>
        </label>
      )}
      {second && (
        <p className={styles.then}>
          Then <strong>{readings.of(second, number)[0]}</strong>
        </p>
      )}
    </section>
  )
}

/** The readings by their titles; what a frame holds sharp, from and to, is one of them. */
function factsOf({ columns, of }: Readings, frame: PlannedFrame, shot: number): { title: string; value: string }[] {
  const values = of(frame, shot)
  const to = columns.indexOf('to')
  return columns
    .map((title, k) => (k === to - 1 ? { title: 'Sharp', value: `${values[k]} to ${values[to]}` } : { title, value: values[k] || '–' }))
    .filter((_, k) => k !== to)
}
