'use client'

import { movesCamera } from '@/core/movers'
import { Alert, Button, Checkbox } from 'antd'
import Link from 'next/link'
import { useState } from 'react'
import { seriesText } from '@/core/sheet'
import { durationText } from '@/core/units'
import type { ShootDetail } from '@/schemas'
import { message } from '../messages'
import { send, useCommand } from '../api'
import { FaultSelect } from '../faults'
import { isBusy, JobProgress, mainJob, useOpenWhenFused } from '../jobs'
import { useStoredPlan } from '../useStoredPlan'
import { DepthRibbon } from '../ribbon'
import { Shell, ShootHeader } from '../shell'
import { useUnits } from '../units'
import { BringFrames } from './BringFrames'
import { ImportStatus } from './ImportStatus'
import { Run } from './Run'
import { useImport } from './useImport'
import { WatchStatus } from './WatchStatus'
import styles from './shoot.module.css'

/** Takes the series with the stand-in camera or brings frames, shows them as they arrive, and starts the fusing. */
export function ShootScreen({ shoot }: { shoot: ShootDetail }) {
  const { plan, request, error } = useStoredPlan(shoot)
  const { system } = useUnits()
  const [selected, setSelected] = useState<number>()
  const [otherRun, setOtherRun] = useState<{ run: number; index: number }>()
  const [faults, setFaults] = useState<string[]>([])
  const [raw, setRaw] = useState(false)
  const start = useCommand(shoot.id, () => send(`/api/shoots/${shoot.id}/shoot`, 'POST', { faults, files: raw ? 'dng' : 'jpg' }))
  const job = mainJob(shoot.jobs)
  const importing = useImport(shoot.id)
  // A run that is still coming in is neither checked nor fused, nor one of which that is not known yet.
  const busy = isBusy(shoot.jobs) || importing === undefined || (importing !== null && !importing.ended)
  useOpenWhenFused(shoot)
  const newest = shoot.runs.find((run) => run.frames.length > 0)
  const followsPlan = newest?.source === 'simulated'

  const ways = (
    <div className={styles.ways}>
      {plan && (
        <section>
          <h2>In the field</h2>
          <p className={styles.quiet}>
            Shoot frame by frame with the run card. It works with one hand and without a connection. Takes about {durationText(plan.duration_s)}.
          </p>
          <Button type={newest || !plan ? 'default' : 'primary'} size="large" href={`/shoots/${shoot.id}/field`}>
            Open the run card
          </Button>
        </section>
      )}
      {plan && (
        <section>
          <h2>Simulated camera</h2>
          <p className={styles.quiet}>
            Shoots the {shoot.scene} scene at every position of the plan, {movesCamera(request.mover.kind) ? 'on a rail' : 'with its focus drive'}.
          </p>
          <div className={styles.standIn}>
            <FaultSelect label="Faults to switch on" value={faults} onChange={setFaults} />
            <Checkbox checked={raw} onChange={({ target }) => setRaw(target.checked)}>
              Raw files
            </Checkbox>
            <Button size="large" disabled={busy} onClick={() => start.mutate(undefined, { onError: (error) => message.error(error.message) })}>
              Shoot {plan.frameCount} {plan.frameCount === 1 ? 'frame' : 'frames'}
            </Button>
          </div>
        </section>
      )}
      <section>
        <h2>Your own frames</h2>
        <BringFrames shootOf={() => Promise.resolve(shoot.id)} />
      </section>
    </div>
  )
  const runs = shoot.runs.map((run) => (
    <Run
      key={run.id}
      run={run}
      shoot={shoot}
      busy={busy}
      selected={run === newest && followsPlan ? selected : otherRun?.run === run.id ? otherRun.index : undefined}
      onSelect={(index) => (run === newest && followsPlan ? setSelected(index) : setOtherRun({ run: run.id, index }))}
    />
  ))

  return (
    <Shell>
      <ShootHeader shoot={shoot} step="shoot" />
      {error && <Alert type="warning" showIcon title={error} action={<Button href={`/shoots/${shoot.id}/plan`}>Change the plan</Button>} />}
      {!plan && !error && (
        <p className={styles.verdict}>
          Nothing is planned for this shoot. <Link href={`/shoots/${shoot.id}/plan`}>Plan it</Link> to have frames counted and depths in millimetres.
        </p>
      )}
      {plan && (
        <>
          <p className={styles.verdict}>{seriesText(plan, request, system)}</p>
          <DepthRibbon plan={plan} request={request} captured={followsPlan ? newest.frames.length : 0} selected={selected} onSelect={setSelected} />
        </>
      )}
      {job && <JobProgress job={job} shootId={shoot.id} />}
      <WatchStatus shootId={shoot.id} />
      <ImportStatus shootId={shoot.id} />
      {/* What to do with the frames there are comes first, then the ways to more. */}
      {runs}
      {newest && <h2 className={styles.more}>More frames</h2>}
      {ways}
    </Shell>
  )
}
