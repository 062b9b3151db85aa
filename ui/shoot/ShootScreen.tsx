'use client'

import { App, Button } from 'antd'
import { useRouter } from 'next/navigation'
import { useState } from 'react'
import { depthCss, rampPlace } from '@/core/ramp'
import { seriesText } from '@/core/sheet'
import type { RunDetail, ShootDetail } from '@/schemas'
import { send, useCommand } from '../api'
import { JobProgress } from '../jobs'
import { useStoredPlan } from '../plan'
import { DepthRibbon } from '../ribbon'
import { Shell, ShootHeader } from '../shell'
import { useUnits } from '../units'
import { significant } from '@/core/units'
import { BringFrames } from './BringFrames'
import styles from './shoot.module.css'

/** Takes the series with the stand-in camera or brings frames, shows them as they arrive, and starts the fusing. */
export function ShootScreen({ shoot }: { shoot: ShootDetail }) {
  const { plan, request } = useStoredPlan(shoot)
  const { message } = App.useApp()
  const { system } = useUnits()
  const [selected, setSelected] = useState<number>()
  const start = useCommand(shoot.id, () => send(`/api/shoots/${shoot.id}/shoot`, 'POST'))
  const [job] = shoot.jobs
  const busy = job?.state === 'queued' || job?.state === 'running'
  const newest = shoot.runs.find((run) => run.frames.length > 0)
  const followsPlan = newest?.source === 'simulated'

  return (
    <Shell>
      <ShootHeader shoot={shoot} step="shoot" />
      <p className={styles.verdict}>{seriesText(plan, request, system)}</p>
      <DepthRibbon plan={plan} request={request} captured={followsPlan ? newest.frames.length : 0} selected={selected} onSelect={setSelected} />
      {job && <JobProgress job={job} shootId={shoot.id} />}
      <div className={styles.ways}>
        <section>
          <h2>Simulated camera</h2>
          <p className={styles.quiet}>
            Shoots the {shoot.scene} scene at every position of the plan, {request.mover.kind === 'rail' ? 'on a rail' : 'by its focus drive'}.
          </p>
          <Button
            type={newest ? 'default' : 'primary'}
            size="large"
            disabled={busy}
            onClick={() => start.mutate(undefined, { onError: (error) => message.error(error.message) })}
          >
            Shoot {plan.frameCount} {plan.frameCount === 1 ? 'frame' : 'frames'}
          </Button>
        </section>
        <section>
          <h2>Your own frames</h2>
          <BringFrames shootId={shoot.id} />
        </section>
      </div>
      {shoot.runs.map((run) => (
        <Run
          key={run.id}
          run={run}
          shoot={shoot}
          busy={busy}
          selected={run === newest && followsPlan ? selected : undefined}
          onSelect={setSelected}
        />
      ))}
    </Shell>
  )
}

interface RunProps {
  run: RunDetail
  shoot: ShootDetail
  busy: boolean
  selected?: number
  onSelect: (index: number) => void
}

/** The frames of a run in focus order, and the way to fuse them. */
function Run({ run, shoot, busy, selected, onSelect }: RunProps) {
  const { message } = App.useApp()
  const router = useRouter()
  const fuse = useCommand(shoot.id, () => send(`/api/runs/${run.id}/fuse`, 'POST', {}))
  if (run.frames.length === 0) return null
  const [first] = run.frames
  return (
    <section className={styles.run} aria-label={`Run ${run.number}`}>
      <div className={styles.runHead}>
        <h2>
          Run {run.number} <span>{run.source === 'simulated' ? 'from the simulated camera' : 'brought in'}</span>
        </h2>
        <p>
          {run.frames.length} {run.frames.length === 1 ? 'frame' : 'frames'} of {first.width} × {first.height} px, {first.bits} bit
          {first.exif?.fNumber ? `, f/${significant(first.exif.fNumber, 2)}` : ''}
          {first.exif?.iso ? `, ISO ${first.exif.iso}` : ''}
        </p>
        {run.renders.length > 0 && (
          <Button onClick={() => router.push(`/shoots/${shoot.id}/result?render=${run.renders[0].id}`)}>Look at the result</Button>
        )}
        <Button type="primary" disabled={busy} onClick={() => fuse.mutate(undefined, { onError: (error) => message.error(error.message) })}>
          Fuse these frames
        </Button>
      </div>
      <ul className={styles.frames}>
        {run.frames.map((frame, index) => (
          <li
            key={frame.id}
            style={{ borderTopColor: depthCss(rampPlace(index, run.frames.length)) }}
            className={index === selected ? styles.chosen : undefined}
          >
            <button type="button" onClick={() => onSelect(index)} title={`${frame.name} · SHA-256 ${frame.sha256.slice(0, 12)}…`}>
              <img src={`/api/frames/${frame.id}/thumb`} alt={`Frame ${index + 1}, ${frame.name}`} loading="lazy" />
              <span>
                {index + 1}
                {frame.position_mm !== null && <em>{frame.position_mm.toFixed(2)} mm</em>}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
