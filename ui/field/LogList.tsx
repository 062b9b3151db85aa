'use client'

import { useState } from 'react'
import type { FieldEvent, FieldRow } from '@/core/field'
import type { FocusLine } from '@/core/plan'
import type { Readings } from '@/core/sheet'
import { depthCss, rampPlace } from '@/core/ramp'
import { TouchButton } from './TouchButton'
import styles from './field.module.css'

const WHAT: Record<FieldRow['what'], string> = {
  frame: '',
  repeat: 'again',
  test: 'test frame',
  divider: 'divider',
  spare: 'spare',
  missed: 'not taken',
}

interface Props {
  rows: FieldRow[]
  count: number
  readings: Readings
  focusLine: FocusLine
  onEntry: (event: FieldEvent) => void
}

/** What was taken, the newest first, each with its time and where the focus was. */
export function LogList({ rows, count, readings, focusLine, onEntry }: Props) {
  const [asking, setAsking] = useState('')
  if (rows.length === 0) return null
  const newest = rows.findLast(({ counts }) => counts)
  const answer = (event: FieldEvent) => {
    setAsking('')
    onEntry(event)
  }
  const undo = (row: FieldRow) => {
    // Taking away what is in the middle can mean two things, so it is asked.
    if (row.counts && row !== newest) setAsking(asking === row.id ? '' : row.id)
    else answer({ kind: 'undone', entry: row.id })
  }
  return (
    <ol className={styles.log} aria-label="Taken">
      {[...rows].reverse().map((row) => {
        const { id, at, what, number, frames, differs } = row
        const [frame] = frames
        const name = number ? `frame ${number}` : WHAT[what]
        return (
          <li
            key={id}
            style={{ borderLeftColor: frame ? depthCss(rampPlace(Math.min(count, frame.index) - 1, count)) : 'transparent' }}
            data-what={what}
          >
            <span>{frames.length > 1 ? `${number}–${number! + frames.length - 1}` : (number ?? '·')}</span>
            <span>
              {frame && frames.length === 1 ? readings.of(frame, (number ?? 1) - 1)[0] : ''} {WHAT[what]}
              {frames.length > 1 && 'by the body'}
              {differs && <em> not as planned</em>}
            </span>
            <time dateTime={at}>{new Date(at).toLocaleTimeString('en-GB')}</time>
            {what === 'missed' && row !== newest ? (
              <TouchButton
                look="text"
                onClick={() => answer({ kind: 'filled', position: focusLine.positionOf(frame) })}
                aria-label={`Taken after all, ${name}`}
              >
                Taken after all
              </TouchButton>
            ) : (
              <TouchButton look="text" onClick={() => undo(row)} aria-label={`Undo ${name}`} aria-expanded={asking === id || undefined}>
                Undo
              </TouchButton>
            )}
            {asking === id && (
              <div className={styles.question} role="group" aria-label={`What happened with ${name}?`}>
                <TouchButton onClick={() => answer({ kind: 'cleared', entry: id })}>Not taken: leave a gap here</TouchButton>
                <TouchButton onClick={() => answer({ kind: 'undone', entry: id })}>One tick too many: move later frames up</TouchButton>
                <TouchButton look="text" onClick={() => setAsking('')}>
                  Keep it
                </TouchButton>
              </div>
            )}
          </li>
        )
      })}
    </ol>
  )
}
