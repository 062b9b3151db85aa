'use client'

import Link from 'next/link'
import type { Step } from '../shell'
import { endFirstSeries, useFirstSeries } from './firstSeries'
import styles from './guide.module.css'
import { GUIDE } from './steps'

/** What to do at a step of the first series, and what its words mean. */
export function Guide({ shootId, step }: { shootId: number; step: Step }) {
  if (useFirstSeries() !== String(shootId)) return null
  const { words, task, next } = GUIDE[step]
  return (
    <section className={styles.guide} aria-label="Your first series">
      <div>
        <p>{task}</p>
        <dl>
          {words.map(([word, meaning]) => (
            <div key={word}>
              <dt>{word}</dt>
              <dd>{meaning}</dd>
            </div>
          ))}
        </dl>
      </div>
      <div className={styles.buttons}>
        {next ? (
          <Link href={`/shoots/${shootId}/${next}`}>Go on to {next[0].toUpperCase() + next.slice(1)}</Link>
        ) : (
          <Link href="/practice">Practise a step</Link>
        )}
        <button type="button" onClick={endFirstSeries}>
          End the guide
        </button>
      </div>
    </section>
  )
}
