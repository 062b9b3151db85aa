'use client'

import { Alert, Button, Progress } from 'antd'
import type { JobDetail } from '@/schemas'
import { send, useCommand } from '../api'
import { SoFar } from './SoFar'
import styles from './jobs.module.css'

const STAGES: Record<string, string> = {
  scene: 'building the scene',
  frame: 'shooting frame',
  register: 'registering frame',
  fuse: 'fusing frame',
  encode: 'writing the picture',
}

/** The newest job of a shoot: its stage and frame while it runs, what went wrong when it ended badly. */
export function JobProgress({ job, shootId }: { job: JobDetail; shootId: number }) {
  const cancel = useCommand(shootId, () => send(`/api/jobs/${job.id}/cancel`, 'POST'))
  const again = useCommand(shootId, () => send(`/api/jobs/${job.id}/again`, 'POST'))
  const name = job.kind === 'shoot' ? 'Simulated camera' : 'Fusing'
  if (job.state === 'queued' || job.state === 'running') {
    return (
      <>
        <div className={styles.job} role="status">
          <span>
            {name}: {job.state === 'queued' ? 'waiting for the job before it' : stageText(job)}
          </span>
          <Progress percent={percentOf(job)} showInfo={false} className={styles.bar} />
          <Button onClick={() => cancel.mutate()} loading={cancel.isPending}>
            Cancel
          </Button>
        </div>
        <SoFar job={job} />
      </>
    )
  }
  if (job.state === 'done') return null
  const sentence = job.state === 'cancelled' ? `${name} was cancelled.` : (job.error ?? 'It ended without a reason.')
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

function stageText({ progress }: JobDetail): string {
  if (!progress) return 'starting'
  const stage = STAGES[progress.stage] ?? progress.stage
  return stage.endsWith('frame') ? `${stage} ${progress.frame} of ${progress.of}` : stage
}

/** Registering is about the first half of a render, fusing the second. */
function percentOf({ kind, progress }: JobDetail): number {
  if (!progress || progress.of === 0) return 0
  const part = progress.frame / progress.of
  if (kind === 'shoot') return 100 * part
  return { register: 45 * part, fuse: 45 + 50 * part, encode: 97 }[progress.stage] ?? 100
}
