'use client'

import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import type { JobDetail, NeededReport, NeededSubset } from '@/schemas'
import { significant } from '@/core/units'
import { fetchJson, runJob } from '../api'
import { isOn, stageText } from '../jobs'
import styles from './result.module.css'

interface Props {
  renderId: number
  jobs: JobDetail[]
  /** How far neighbouring slices of the plan overlap, 0 … 1; absent without a plan. */
  overlap?: number
  shown?: NeededSubset
  onShow: (subset: NeededSubset | undefined) => void
}

/** How many of the frames were needed: the run fused from fewer of them, where that shows, and what to plan with next time. */
export function FramesNeeded({ renderId, jobs, overlap, shown, onShow }: Props) {
  const client = useQueryClient()
  const key = ['needed', renderId]
  const { data } = useQuery({ queryKey: key, queryFn: () => fetchJson<{ needed: NeededReport | null }>(`/api/renders/${renderId}/needed`) })
  const [busy, setBusy] = useState(false)
  const [error, setError] = useState('')
  const job = jobs.find(({ kind, render_id }) => kind === 'needed' && render_id === renderId)
  const working = busy || (job && isOn(job))
  const find = async () => {
    setBusy(true)
    setError('')
    try {
      client.setQueryData(key, { needed: await runJob<'needed'>(`/api/renders/${renderId}/needed`) })
    } catch (cause) {
      setError((cause as Error).message)
    } finally {
      setBusy(false)
    }
  }
  const needed = data?.needed
  return (
    <section aria-label="How many frames were needed">
      <h2>How many frames were needed?</h2>
      {needed ? (
        <>
          <p className={styles.partsNote}>
            {needed.text} {overlap !== undefined && nextTime(needed, overlap)}
          </p>
          <ol className={styles.fewer}>
            {needed.subsets.map((subset) => (
              <li key={subset.frames.length}>
                <span>
                  {subset.frames.length} frames: {subset.visible ? `${percent(subset.soft_percent)} looks soft` : 'no loss to see'}
                </span>
                {subset.softest && (
                  <button type="button" aria-pressed={shown === subset} onClick={() => onShow(shown === subset ? undefined : subset)}>
                    Look
                  </button>
                )}
              </li>
            ))}
          </ol>
        </>
      ) : (
        <>
          <p className={styles.partsNote}>Fuses the run from fewer of its frames and says from how few the loss shows.</p>
          <button type="button" className={styles.whole} disabled={working || !data} onClick={() => void find()}>
            {working ? `Fusing${job ? `: ${stageText(job)}` : ' …'}` : 'Find out'}
          </button>
        </>
      )}
      {error && <p role="alert">{error}</p>}
    </section>
  )
}

const percent = (value: number) => `${significant(Math.max(0.1, value), 2)} %`

/** The overlap that would have left just as many frames. */
function nextTime({ fewest }: NeededReport, overlap: number): string {
  if (fewest.every <= 1) return ''
  const enough = 1 - fewest.every * (1 - overlap)
  return enough >= 0
    ? `Next time plan with ${Math.round(100 * enough)} % overlap instead of ${Math.round(100 * overlap)} %.`
    : 'Slices do not even have to touch for this: allow more blur next time.'
}
