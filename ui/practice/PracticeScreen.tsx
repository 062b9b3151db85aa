'use client'

import { useQuery } from '@tanstack/react-query'
import { useRouter } from 'next/navigation'
import { EXERCISE_NAMES, EXERCISES, LEVELS, type ExerciseName } from '@/core/practice'
import { dateText } from '@/core/units'
import type { KeptTry } from '@/schemas'
import { fetchJson } from '../api'
import { Shell } from '../shell'
import { addressOf } from './ExerciseScreen'
import styles from './practice.module.css'
import { Record as TryRecord } from './Record'

/** The exercises, and how they went. */
export function PracticeScreen() {
  const router = useRouter()
  const { data: tries = [], error } = useQuery({ queryKey: ['practice'], queryFn: () => fetchJson<KeptTry[]>('/api/practice'), staleTime: 0 })
  return (
    <Shell>
      <div className={styles.head}>
        <h1>Practice</h1>
        <p>Short exercises on a simulated camera. Nothing real is at stake, and the truth is known, so every try is marked.</p>
      </div>
      {error && <p role="alert">▲ {error.message}</p>}
      <ol className={styles.exercises}>
        {EXERCISE_NAMES.map((name) => (
          <li key={name}>
            <section aria-label={EXERCISES[name].title}>
              <div>
                <h2>{EXERCISES[name].title}</h2>
                <p>{EXERCISES[name].aim}</p>
              </div>
              <Went tries={tries.filter(({ exercise }) => exercise === name)} />
              <div className={styles.begin} role="group" aria-label={`Begin: ${EXERCISES[name].title}`}>
                {LEVELS.map((level) => (
                  <button key={level} type="button" onClick={() => router.push(addressOf(name as ExerciseName, level))}>
                    Level {level}
                  </button>
                ))}
              </div>
            </section>
          </li>
        ))}
      </ol>
    </Shell>
  )
}

/** What came of the tries so far. */
function Went({ tries }: { tries: KeptTry[] }) {
  if (tries.length === 0) return <p className={styles.went}>Not tried yet.</p>
  const last = tries.at(-1)!
  return (
    <div className={styles.went}>
      <TryRecord tries={tries} />
      <p>
        {tries.length === 1 ? '1 try' : `${tries.length} tries`}; last {Math.round(last.percent)} % at level {last.level}, {dateText(last.created_at)}
      </p>
    </div>
  )
}
