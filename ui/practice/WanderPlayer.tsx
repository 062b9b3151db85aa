'use client'

import { useEffect, useState } from 'react'
import type { WanderAnswer, WanderTask } from '@/core/practice'
import type { Comparison } from './darkroom'
import type { PlayerProps } from './player'
import { Picture } from './Picture'
import { MarkIt } from './MarkIt'
import { MendIt } from './MendIt'
import styles from './practice.module.css'

/** A mark is lifted again by a click so near to it, in px of the picture. */
const NEAR_px = 12
const RADIUS_px = 9

/** A fused picture to go over, marking what is wrong. */
export function WanderPlayer({ task, darkroom, onAnswer, mark }: PlayerProps<WanderTask, WanderAnswer>) {
  const [seen, setSeen] = useState<Comparison>()
  const [marked, setMarked] = useState<{ x: number; y: number }[]>([])
  const [magnified, setMagnified] = useState<{ times: number; x: number; y: number }>()
  const [cleanShown, setCleanShown] = useState(false)
  const [error, setError] = useState('')
  useEffect(() => {
    const { request, clean, missing } = task
    darkroom?.ask('compare', { request, clean, without: missing }).then(setSeen, (cause: Error) => setError(cause.message))
  }, [darkroom, task])
  useEffect(() => {
    if (!mark) return
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== ' ' || event.target instanceof HTMLButtonElement) return
      event.preventDefault()
      setCleanShown(event.type === 'keydown')
    }
    window.addEventListener('keydown', onKey)
    window.addEventListener('keyup', onKey)
    return () => {
      window.removeEventListener('keydown', onKey)
      window.removeEventListener('keyup', onKey)
    }
  }, [mark])
  const pick = (x: number, y: number) => {
    if (mark || !seen) return
    const near = marked.findIndex((each) => Math.hypot(each.x - x, each.y - y) < NEAR_px)
    setMarked(near < 0 ? [...marked, { x, y }] : marked.filter((_, k) => k !== near))
  }
  const quarters = ['whole', 'upper left', 'upper right', 'lower left', 'lower right']
  const look = (k: number) => {
    const { width, height } = seen!.picture
    setMagnified(k === 0 ? undefined : { times: 2, x: k % 2 === 1 ? 0 : width, y: k < 3 ? 0 : height })
  }
  return (
    <div className={styles.player}>
      <Picture
        bitmap={cleanShown ? seen?.clean : seen?.picture}
        label={cleanShown ? 'The picture without the faults' : 'A fused picture with faults'}
        waiting="The series is shot and fused…"
        magnified={magnified}
        onPick={pick}
      >
        {mark &&
          seen?.places.map(({ x, y, width, height, counts }) => (
            <rect key={`${x} ${y}`} className={styles.place} data-counts={counts} x={x} y={y} width={width} height={height} />
          ))}
        {marked.map(({ x, y }) => (
          <circle key={`${x} ${y}`} className={styles.marked} cx={x} cy={y} r={RADIUS_px} />
        ))}
      </Picture>
      <div className={styles.hand}>
        <p>Click on what is wrong: a trail of dust, a part that shows twice, a soft band between sharp ones. A second click lifts the mark.</p>
        <div className={styles.buttons} role="group" aria-label="Look at">
          {quarters.map((name, k) => (
            <button key={name} type="button" disabled={!seen} onClick={() => look(k)}>
              {name}
            </button>
          ))}
        </div>
        <p aria-live="polite">{marked.length === 1 ? '1 place marked' : `${marked.length} places marked`}</p>
        {mark && (
          <div className={styles.buttons}>
            <button type="button" aria-pressed={cleanShown} onClick={() => setCleanShown(!cleanShown)}>
              Without the faults
            </button>
            {darkroom && <MendIt darkroom={darkroom} request={task.request} missing={task.missing} />}
          </div>
        )}
        <MarkIt
          ready={mark ? undefined : seen !== undefined && marked.length > 0}
          onMark={() => onAnswer({ marked, places: seen!.places })}
          error={error}
        />
      </div>
    </div>
  )
}
