'use client'

import { useEffect, useState } from 'react'
import { nameOf, strikesOneFrame, type HappenedAnswer, type HappenedTask, type Happening } from '@/core/practice'
import type { PlayerProps } from './player'
import { Picture, useMagnifier } from './Picture'
import { MarkIt } from './MarkIt'
import styles from './practice.module.css'
import { useShot } from './useShot'

/** A run to flick through, and what may have gone wrong in it. */
export function HappenedPlayer({ task, darkroom, onAnswer, mark }: PlayerProps<HappenedTask, HappenedAnswer>) {
  const [count, setCount] = useState(0)
  const [index, setIndex] = useState(0)
  const [kind, setKind] = useState<Happening>()
  const [struck, setStruck] = useState<number>()
  const { bitmap, error } = useShot(darkroom, task.request, index)
  const magnifier = useMagnifier()
  useEffect(() => {
    void darkroom?.ask('count', { request: task.request }).then(setCount)
  }, [darkroom, task.request])
  useEffect(() => {
    const onKey = ({ key, target }: KeyboardEvent) => {
      const way = { ArrowLeft: -1, ArrowRight: 1 }[key]
      if (way && !(target instanceof HTMLInputElement)) setIndex((now) => Math.min(Math.max(0, count - 1), Math.max(0, now + way)))
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [count])
  // The explanation points at the picture: it goes there.
  useEffect(() => {
    if (mark && task.truth.frame) setIndex(task.truth.frame - 1)
  }, [mark, task.truth.frame])
  const asksFrame = kind !== undefined && strikesOneFrame(kind)
  return (
    <div className={styles.player}>
      <div>
        <Picture bitmap={bitmap} label={`Frame ${index + 1} of ${count}`} {...magnifier} />
        <ol className={styles.strip} aria-label="Frames of the run">
          {Array.from({ length: count }, (_, k) => (
            <li key={k}>
              <button
                type="button"
                aria-label={`Frame ${k + 1}`}
                aria-current={k === index}
                data-struck={asksFrame && struck === k + 1}
                data-truth={mark && task.truth.frame === k + 1}
                onClick={() => setIndex(k)}
              >
                {k + 1}
              </button>
            </li>
          ))}
        </ol>
      </div>
      <div className={styles.hand}>
        <p>
          Planned: ten frames in even steps from just before the subject. Flick through them with ← and →; click into the picture, or press M, to look
          closely.
        </p>
        <fieldset className={styles.choices} disabled={!!mark}>
          <legend>What happened?</legend>
          {task.choices.map((choice) => (
            <label key={choice}>
              <input type="radio" name="what" checked={kind === choice} onChange={() => setKind(choice)} />
              {nameOf(choice)}
            </label>
          ))}
        </fieldset>
        <MarkIt
          ready={mark ? undefined : kind !== undefined && (!asksFrame || struck !== undefined)}
          onMark={() => onAnswer({ kind: kind!, ...(asksFrame && { frame: struck }) })}
          error={error}
        >
          {asksFrame && (
            <button type="button" aria-pressed={struck === index + 1} onClick={() => setStruck(index + 1)}>
              {struck === undefined ? `In this frame, ${index + 1}` : `In frame ${struck}${struck === index + 1 ? '' : `; change to ${index + 1}`}`}
            </button>
          )}
        </MarkIt>
      </div>
    </div>
  )
}
