'use client'

import { useEffect, useRef, useState } from 'react'
import { HandRail, type ByHandAnswer, type ByHandTask } from '@/core/practice'
import { significant } from '@/core/units'
import { Dial } from './Dial'
import type { PlayerProps } from './player'
import { Picture, useMagnifier } from './Picture'
import { MarkIt } from './MarkIt'
import styles from './practice.module.css'
import { useClock } from './useClock'
import { useShot } from './useShot'

const TURNS = [-10, -1, 1, 10]

/** A rail with a dial to turn, and a shutter to press. */
export function ByHandPlayer({ task, seed, darkroom, onAnswer, mark }: PlayerProps<ByHandTask, ByHandAnswer>) {
  const [rail] = useState(() => new HandRail(task, seed))
  const [, setTurned] = useState(0)
  const clock = useClock()
  const { bitmap, error } = useShot(darkroom, task.request, rail.view)
  const magnifier = useMagnifier()
  const turn = (marks: number) => {
    if (mark) return
    clock.start()
    rail.turn(marks)
    setTurned((n) => n + 1)
  }
  const press = () => {
    if (mark) return
    clock.start()
    rail.press()
    setTurned((n) => n + 1)
  }
  const keys = useRef({ turn, press })
  useEffect(() => {
    keys.current = { turn, press }
  })
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey) return
      const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
      if (way) keys.current.turn(way * (event.shiftKey ? 10 : 1))
      else if (event.key === 'p') keys.current.press()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [])
  const stride_marks = Math.round((task.planned_mm[1] - task.planned_mm[0]) / task.mmAMark)
  return (
    <div className={styles.player}>
      <Picture bitmap={bitmap} label="Live view" {...magnifier} />
      <div className={styles.hand}>
        <p>
          {task.planned_mm.length} frames, <b>{stride_marks} marks</b> apart. The first is where the rail stands; turn forward from there. A turn is{' '}
          {task.marksATurn} marks, a mark {significant(task.mmAMark, 2)} mm.
          {task.backlash_mm > 0 && ` The screw has ${Math.round(task.backlash_mm / task.mmAMark)} marks of play when you turn back.`}
        </p>
        <div className={styles.rail}>
          <Dial marks={rail.marks} aTurn={task.marksATurn} />
          <dl>
            <div>
              <dt>Dial</dt>
              <dd>{dialText(rail.marks, task.marksATurn)}</dd>
            </div>
            <div>
              <dt>Frames</dt>
              <dd>
                {rail.pressed_mm.length} of {task.planned_mm.length}
              </dd>
            </div>
            <div>
              <dt>Time</dt>
              <dd>
                {Math.round(clock.seconds)} of {task.time_s} s
              </dd>
            </div>
          </dl>
        </div>
        <div className={styles.buttons}>
          {TURNS.map((marks) => (
            <button key={marks} type="button" disabled={!!mark} onClick={() => turn(marks)}>
              {marks > 0 ? `+${marks}` : `−${-marks}`}
            </button>
          ))}
          <button type="button" disabled={!!mark} onClick={press}>
            Press the shutter
          </button>
        </div>
        <p className={styles.quiet}>← and → turn by a mark, with Shift by ten; P presses; M magnifies. The clock starts with your first move.</p>
        <MarkIt
          ready={mark ? undefined : rail.pressed_mm.length > 0}
          onMark={() => onAnswer({ pressed_mm: rail.pressed_mm, took_s: clock.stop() })}
          error={error}
        />
      </div>
    </div>
  )
}

/** Whole turns and marks, as a hand counts them. */
function dialText(marks: number, aTurn: number): string {
  const [turns, rest] = [Math.floor(Math.abs(marks) / aTurn), Math.abs(marks) % aTurn]
  return `${marks < 0 ? '−' : ''}${turns > 0 ? `${turns} ${turns === 1 ? 'turn' : 'turns'} ` : ''}${rest}`
}
