import { useEffect, useRef, useState } from 'react'
import type { JobDetail } from '@/schemas'
import { durationText } from '@/core/units'
import { isOn } from './mainJob'
import { percentOf } from './stages'

/** Before so much of a job is seen, in percent, its pace is a guess. */
const LEAST_percent = 6

/** About how long a job still takes, from the pace since this screen saw it run; nothing while that cannot be told. */
export function useTimeLeft(job: JobDetail): string {
  const begun = useRef<{ id: number; percent: number; at_ms: number }>(undefined)
  const [text, setText] = useState('')
  const percent = percentOf(job)
  const on = isOn(job) && job.state === 'running'
  useEffect(() => {
    if (!on) return setText('')
    if (begun.current?.id !== job.id) begun.current = { id: job.id, percent, at_ms: Date.now() }
    const { percent: from, at_ms } = begun.current
    if (percent - from < LEAST_percent) return
    const left_s = ((Date.now() - at_ms) / 1000 / (percent - from)) * (100 - percent)
    setText(left_s < 3 ? '' : `, about ${durationText(Math.max(5, Math.round(left_s / 5) * 5))} left`)
  }, [on, job.id, percent])
  return text
}
