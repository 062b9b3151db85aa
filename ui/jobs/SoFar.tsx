import type { JobDetail } from '@/schemas'
import styles from './jobs.module.css'

const WHAT = {
  picture: 'The picture so far',
  depth: 'Its depth so far, in the colours of the plan',
} as const

/** What a render has come to while it runs, side by side: the picture, and its depth in the colours of the ribbon. */
export function SoFar({ job: { id, state, progress } }: { job: JobDetail }) {
  if (state !== 'running' || !progress?.soFar) return null
  return (
    <div className={styles.soFar}>
      {Object.entries(WHAT).map(([what, words]) => (
        <figure key={what}>
          <img src={`/api/jobs/${id}/so-far/${what}?n=${progress.soFar}`} alt={words} />
          <figcaption>{words}</figcaption>
        </figure>
      ))}
    </div>
  )
}
