'use client'

import { Alert, Button, Progress } from 'antd'
import type { JobDetail, JobResults } from '@/schemas'
import { isOn } from '../jobs'
import { JOB_NAMES, percentOf, stageText } from '../jobs/stages'
import styles from './storage.module.css'
import { useCancelJob } from './useStorage'

/** The newest work on everything: how far it is, or what came of it. */
export function StorageJobs({ jobs }: { jobs: JobDetail[] }) {
  const cancel = useCancelJob()
  const [job] = jobs
  if (!job) return null
  if (!isOn(job)) {
    const words = job.state === 'done' ? doneText(job) : job.state === 'cancelled' ? `${JOB_NAMES[job.kind]} was cancelled.` : (job.error ?? '')
    const good = job.state === 'done' && !words.startsWith('▲')
    return <Alert type={good ? 'success' : job.state === 'cancelled' ? 'info' : 'error'} showIcon title={words} />
  }
  return (
    <div className={styles.job} role="status">
      <span>
        {JOB_NAMES[job.kind]}: {stageText(job)}
      </span>
      <Progress percent={percentOf(job)} showInfo={false} aria-label={JOB_NAMES[job.kind]} />
      <Button onClick={() => cancel.mutate(job.id)} loading={cancel.isPending}>
        Cancel
      </Button>
    </div>
  )
}

function doneText({ kind, result }: JobDetail): string {
  switch (kind) {
    case 'check': {
      const { checked, missing, changed } = result as JobResults['check']
      const bad = missing.length + changed.length
      if (bad === 0) return `Everything is there: ${checked} frames match their checksums.`
      return `▲ Missing frames: ${missing.length}, damaged: ${changed.length}, of ${checked}. Open their runs and bring the files again.`
    }
    case 'backup':
      return `The backup ${(result as JobResults['backup']).name} is ready. Save a copy on another disk.`
    case 'restore': {
      const { shoots, runs, frames, renders, files } = result as JobResults['restore']
      if (shoots + runs + frames + renders + files === 0) return 'Nothing was missing: all of the backup is here already.'
      return `Restored: ${shoots} shoots, ${runs} runs, ${frames} frames, ${renders} renders; ${files} files put in place.`
    }
    default:
      return `${JOB_NAMES[kind]}: done.`
  }
}
