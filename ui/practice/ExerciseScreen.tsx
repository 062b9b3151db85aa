'use client'

import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useEffect, useMemo, useRef, useState } from 'react'
import { EXERCISES, LEVELS, type Exercise, type ExerciseName, type Level, type Mark } from '@/core/practice'
import { send } from '../api'
import { Shell } from '../shell'
import { Darkroom } from './darkroom'
import { PLAYERS } from './players'
import styles from './practice.module.css'

interface Props {
  name: ExerciseName
  level: Level
  seed: number
}

/** A task of an exercise: posed by its seed, played, marked, and another one after it. */
export function ExerciseScreen({ name, level, seed }: Props) {
  const exercise = EXERCISES[name] as unknown as Exercise<unknown, unknown>
  const router = useRouter()
  const task = useMemo(() => exercise.pose(seed, level), [exercise, seed, level])
  const [darkroom, setDarkroom] = useState<Darkroom>()
  const [mark, setMark] = useState<Mark>()
  const [error, setError] = useState('')
  const began = useRef(0)
  useEffect(() => {
    began.current = performance.now()
    const made = new Darkroom()
    setDarkroom(made)
    return () => made.close()
  }, [])
  const onAnswer = async (answer: unknown) => {
    const took_s = (performance.now() - began.current) / 1000
    try {
      const marked = await darkroom!.ask('mark', { exercise: name, task, answer })
      setMark(marked)
      await send('/api/practice', 'POST', { exercise: name, level, seed, percent: marked.percent, took_s: Math.min(86_400, took_s) })
    } catch (cause) {
      setError((cause as Error).message)
    }
  }
  const go = (to: Level) => router.push(addressOf(name, to))
  const Player = PLAYERS[name]
  return (
    <Shell dark>
      <header className={styles.exerciseHead}>
        <div>
          <Link href="/practice">Practice</Link>
          <h1>{exercise.title}</h1>
          <p>{exercise.aim}</p>
          {exercise.caution && <p className={styles.quiet}>{exercise.caution}</p>}
        </div>
        <div className={styles.levels} role="group" aria-label="Level">
          {LEVELS.map((each) => (
            <button key={each} type="button" aria-pressed={each === level} onClick={() => go(each)}>
              Level {each}
            </button>
          ))}
        </div>
      </header>
      {mark && (
        <section className={styles.mark} aria-label="How it went">
          <strong>{mark.percent} %</strong>
          <ul>
            {mark.said.map(({ code, text }, k) => (
              <li key={k} data-code={code}>
                {text}
              </li>
            ))}
          </ul>
          <button type="button" className={styles.main} onClick={() => go(level)}>
            Another one
          </button>
        </section>
      )}
      {error && <p role="alert">▲ {error}</p>}
      <Player task={task} seed={seed} level={level} darkroom={darkroom} onAnswer={(answer) => void onAnswer(answer)} mark={mark} />
    </Shell>
  )
}

const MOST_SEED = 1_000_000

/** Where a new task of an exercise is played. */
export const addressOf = (name: ExerciseName, level: Level) => `/practice/${name}?level=${level}&seed=${Math.floor(Math.random() * MOST_SEED)}`
