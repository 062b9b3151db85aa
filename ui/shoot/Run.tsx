'use client'

import { Alert, Button } from 'antd'
import { useRouter } from 'next/navigation'
import { useEffect, useMemo, useRef, useState } from 'react'
import { LEAST_TO_SPLIT } from '@/core/batch'
import { significant } from '@/core/units'
import type { JobResults, RunDetail, ShootDetail } from '@/schemas'
import { message } from '../messages'
import { runJob, send, useCommand } from '../api'
import { useStoredPlan } from '../useStoredPlan'
import { DeleteButton } from '../DeleteButton'
import { depthPlaces } from './depthPlaces'
import { Flick } from './Flick'
import { FrameList } from './FrameList'
import { FuseControls } from './FuseControls'
import { MissingFiles } from './MissingFiles'
import { CaptureSets } from './CaptureSets'
import { RawDevelopment } from './RawDevelopment'
import { sortedFrames, SurveyReportView, type SortedFrame } from '../survey'
import { useFocusText } from '../useFocusText'
import styles from './shoot.module.css'

interface Props {
  run: RunDetail
  shoot: ShootDetail
  /** A job of this shoot waits or runs. */
  busy: boolean
  selected?: number
  onSelect: (index: number) => void
}

/** The frames of a run in focus order with what each is worth, and the way to fuse them. */
export function Run({ run, shoot, busy, selected, onSelect }: Props) {
  const router = useRouter()
  const onError = (error: Error) => message.error(error.message)
  const survey = useCommand(shoot.id, () => runJob<'survey'>(`/api/runs/${run.id}/survey`))
  const split = useCommand(shoot.id, () =>
    runJob<'split'>(`/api/runs/${run.id}/split`).then((found) => found && message.info(splitText(found.series), 6)),
  )
  const setAside = useCommand<{ id: number; aside: boolean }>(shoot.id, ({ id, aside }) => send(`/api/frames/${id}/aside`, 'PUT', { aside }))
  const join = useCommand(shoot.id, () => send(`/api/runs/${run.id}/join`, 'POST'))
  /** The newest comes first. */
  const before = shoot.runs.find(({ number }) => number < run.number)
  const frames = useMemo(() => sortedFrames(run), [run])
  const focusText = useFocusText(shoot)
  const { plan, request } = useStoredPlan(run)
  const places = depthPlaces(
    frames.map(({ frame }) => frame.position_mm),
    plan,
    request?.subject.kind === 'range' ? request.subject.near_mm : 0,
  )
  const [hatched, setHatched] = useState(false)

  // Each set of frames is checked once by itself, as soon as no more are arriving.
  const checked = useRef(0)
  const { mutate: check } = survey
  useEffect(() => {
    if (busy || run.survey || run.frames.length < 3 || checked.current === run.frames.length) return
    const waiting = setTimeout(() => {
      checked.current = run.frames.length
      check(undefined, { onError: (error) => message.error(error.message) })
    }, 1500)
    return () => clearTimeout(waiting)
  }, [busy, run.survey, run.frames.length, check])

  if (run.frames.length === 0) return null
  const [first] = run.frames
  const used = frames.filter((frame) => frame.used)
  const toggle = ({ frame, used: isUsed }: SortedFrame) => setAside.mutate({ id: frame.id, aside: isUsed }, { onError })
  const unsharp = hatched ? run.survey?.coverage.unsharp : undefined
  /** The map fits the frame whose view it is in. */
  const showUnsharp = (show: boolean) => {
    setHatched(show)
    const best = frames.findIndex(({ frame }) => frame.name === run.survey?.coverage.unsharp?.file)
    if (show && best >= 0) onSelect(best)
  }
  return (
    <section className={styles.run} aria-label={`Run ${run.number}`}>
      <div className={styles.runHead}>
        <h2>
          Run {run.number}{' '}
          <span>
            {run.source === 'simulated' ? 'from the simulated camera' : 'your own frames'}
            {run.reason && `, split off: ${run.reason}`}
          </span>{' '}
          {before && run.reason && run.renders.length === 0 && (
            <Button size="small" disabled={busy || join.isPending} onClick={() => join.mutate(undefined, { onError })}>
              Put back into run {before.number}
            </Button>
          )}
        </h2>
        {run.renders.length > 0 && (
          <Button type="primary" onClick={() => router.push(`/shoots/${shoot.id}/result?render=${run.renders[0].id}`)}>
            Open the result
          </Button>
        )}
        <FuseControls runId={run.id} shootId={shoot.id} used={used} all={run.frames.length} busy={busy} next={run.renders.length === 0} />
        {run.frames.length >= LEAST_TO_SPLIT && (
          <Button disabled={busy} loading={split.isPending} onClick={() => split.mutate(undefined, { onError })}>
            Split into series
          </Button>
        )}
        <p>
          {run.frames.length} {run.development ? 'raw ' : ''}
          {run.frames.length === 1 ? 'frame' : 'frames'} of {first.width} × {first.height} px, {first.bits} bit
          {first.exif?.fNumber ? `, f/${significant(first.exif.fNumber, 2)}` : ''}
          {first.exif?.iso ? `, ISO ${first.exif.iso}` : ''}
          {first.colour && first.colour !== 'no profile' && !run.development ? `, ${first.colour}` : ''}
          <DeleteButton kind="run" id={run.id} what={`run ${run.number} with its ${run.frames.length} frames`} disabled={busy} />
        </p>
      </div>
      <MissingFiles run={run} shootId={shoot.id} />
      {run.development && <RawDevelopment run={run} development={run.development} shootId={shoot.id} disabled={busy} />}
      {clockOf(shoot, run) && <Alert type="warning" showIcon title={clockOf(shoot, run)} />}
      <CaptureSets run={run} shootId={shoot.id} disabled={busy} />
      <SurveyReportView
        survey={run.survey}
        busy={survey.isPending}
        onAgain={() => check(undefined, { onError })}
        hatched={hatched}
        onHatched={showUnsharp}
      />
      {selected !== undefined && frames[selected] && <Flick frames={frames} index={selected} focusText={focusText} unsharp={unsharp} />}
      <FrameList frames={frames} places={places} selected={selected} focusText={focusText} onSelect={onSelect} onToggle={toggle} />
    </section>
  )
}

/** That the camera's clock was set in between, as the newest look for series found. */
function clockOf(shoot: ShootDetail, run: RunDetail): string | undefined {
  const split = shoot.jobs.find(({ kind, run_id, state }) => kind === 'split' && run_id === run.id && state === 'done')
  return (split?.result as JobResults['split'] | undefined)?.clock?.text
}

function splitText(series: JobResults['split']['series']): string {
  const sets = series.flatMap(({ captures }) => captures?.sets ?? [])
  const merged = sets.length > 0 ? ` ${sets.flat().length} captures with a shifted sensor are ${sets.length} frames.` : ''
  if (series.length === 1) return `All frames belong to one series.${merged}`
  const reasons = series.slice(1).map(({ reason }) => reason)
  return `${series.length} series: ${reasons.join('; ')}.${merged}`
}
