'use client'

import { Alert, Button, Progress } from 'antd'
import type { JobDetail } from '@/schemas'
import { send, useCommand } from '../api'
import { isOn } from './mainJob'
import { SoFar } from './SoFar'
import { useTimeLeft } from './useTimeLeft'
import { JOB_NAMES, percentOf, stageText } from './stages'
import styles from './jobs.module.css'

/** A job: its stage and frame while it runs, what went wrong when it ended badly. */
export function JobProgress({ job, shootId }: { job: JobDetail; shootId: number }) {
  const cancel = useCommand(shootId, () => send(`/api/jobs/${job.id}/cancel`, 'POST'))
  const again = useCommand(shootId, () => send(`/api/jobs/${job.id}/again`, 'POST'))
  const rest = useCommand<boolean>(shootId, (resting) => send(`/api/jobs/${job.id}/rest`, 'PUT', { resting }))
  const resting = job.progress?.resting === true
  const name = JOB_NAMES[job.kind]
  const left = useTimeLeft(job)
  if (isOn(job)) {
    return (
      <>
        <div className={styles.job} role="status">
          <span>{resting ? `${name} rests before ${stageText(job)}` : `${name}: ${stageText(job)}${left}`}</span>
          <Progress percent={percentOf(job)} showInfo={false} className={styles.bar} aria-label={name} />
          {job.state === 'running' && (
            <Button onClick={() => rest.mutate(!resting)} loading={rest.isPending}>
              {resting ? 'Go on' : 'Pause'}
            </Button>
          )}
          <Button onClick={() => cancel.mutate()} loading={cancel.isPending}>
            Cancel
          </Button>
        </div>
        <SoFar job={job} />
      </>
    )
  }
  if (job.state === 'done') return null
  const sentence = job.state === 'cancelled' ? `${name} was cancelled.` : (job.error ?? 'It stopped without saying why.')
  return (
    <Alert
      type={job.state === 'cancelled' ? 'info' : 'error'}
      showIcon
      title={sentence}
      action={
        <Button onClick={() => again.mutate()} loading={again.isPending}>
          Run it again
        </Button>
      }
    />
  )
}
