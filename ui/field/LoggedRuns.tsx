'use client'

import { useState } from 'react'
import { fieldProgress, type FieldEvent, type LoggedRun } from '@/core/field'
import type { FocusLine } from '@/core/plan'
import { TouchButton } from './TouchButton'
import styles from './field.module.css'

interface Props {
  runs: LoggedRun[]
  current: LoggedRun
  focusLine: FocusLine
  onEntry: (event: FieldEvent) => void
}

const clock = (at: string) => new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })

/** The runs of this shoot's log: a new one after a question, and the way back to each. */
export function LoggedRuns({ runs, current, focusLine, onEntry }: Props) {
  const [asking, setAsking] = useState(false)
  const counts = runs.map(({ entries }) =>
    fieldProgress(focusLine, entries).rows.reduce((sum, { what, frames }) => sum + (what === 'missed' ? 0 : frames.length), 0),
  )
  const now = runs.indexOf(current)
  const start = () => {
    setAsking(false)
    onEntry({ kind: 'begin' })
  }
  return (
    <section className={styles.runs} aria-label="Runs of this shoot">
      {runs.length > 1 && (
        <ul>
          {runs.map(({ id, entries }, k) => (
            <li key={id}>
              <span>
                Run {k + 1}: {counts[k]} {counts[k] === 1 ? 'frame' : 'frames'}
                {entries.length > 0 && `, from ${clock(entries[0].at)}`}
              </span>
              {k === now ? (
                <strong>this one</strong>
              ) : (
                <TouchButton onClick={() => onEntry({ kind: 'returned', run: id })}>Go back to run {k + 1}</TouchButton>
              )}
            </li>
          ))}
        </ul>
      )}
      {counts[now] > 0 && !asking && (
        <TouchButton look="text" onClick={() => setAsking(true)}>
          Start a new run…
        </TouchButton>
      )}
      {asking && (
        <div className={styles.question} role="group" aria-label="Start a new run?">
          <p>
            Start run {runs.length + 1} from the first frame? Run {now + 1} stays in this list with its {counts[now]}{' '}
            {counts[now] === 1 ? 'frame' : 'frames'}.
          </p>
          <TouchButton onClick={start}>Start run {runs.length + 1}</TouchButton>
          <TouchButton look="text" onClick={() => setAsking(false)}>
            Go on with run {now + 1}
          </TouchButton>
        </div>
      )}
    </section>
  )
}
