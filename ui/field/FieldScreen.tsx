'use client'

import { useState } from 'react'
import { movesCamera } from '@/core/movers'
import { bodySeriesOf, storedSheetPlan, type PlanSheet, type SheetPlan } from '@/core/sheet'
import { durationText } from '@/core/units'
import { type ShootDetail } from '@/schemas'
import { useKit } from '../api'
import { message } from '../messages'
import { DepthRibbon } from '../ribbon'
import { Shell, ShootHeader } from '../shell'
import { useUnits } from '../units'
import { useWatch } from '../useWatch'
import { AidSwitches } from './AidSwitches'
import { BringLog } from './BringLog'
import { DevicesDoor } from './DevicesDoor'
import { Gaps } from './Gaps'
import { LiveCheck } from './LiveCheck'
import { LoggedRuns } from './LoggedRuns'
import { LogList } from './LogList'
import { Preparation } from './Preparation'
import { ToTake } from './ToTake'
import { TouchButton } from './TouchButton'
import { useAwake } from './useAwake'
import { useCard } from './useCard'
import { useDevices } from './useDevices'
import { useFieldLog } from './useFieldLog'
import { useRunByItself } from './useRunByItself'
import styles from './field.module.css'

/** The live run card: guides the hand frame by frame, keeps the log, and checks what was taken before leaving. */
export function FieldScreen({ shoot }: { shoot: ShootDetail }) {
  const { data: kit } = useKit()
  const stored = kit && storedSheetPlan(shoot, kit)
  return (
    <Shell>
      <ShootHeader shoot={shoot} step="shoot" />
      {!stored && <p role="status">Loading the run card…</p>}
      {stored && 'error' in stored && <p role="alert">▲ {stored.error} Change the plan before you shoot it.</p>}
      {stored && 'plan' in stored && <Field shoot={shoot} planned={stored} sheet={stored.sheet} />}
    </Shell>
  )
}

function Field({ shoot, planned, sheet }: { shoot: ShootDetail; planned: SheetPlan; sheet: PlanSheet }) {
  const { system } = useUnits()
  const { plan, request } = planned
  const { log, append, unsent } = useFieldLog(shoot)
  const devices = useDevices(shoot.id)
  const watch = useWatch(shoot.id)
  const [faults, setFaults] = useState<string[]>([])
  const { focusLine, runs, current, progress, readings, card, phases } = useCard({ planned, sheet, shoot, log, units: system, byDevices: devices.on })
  const { rows, ahead, gaps, paused, prepared } = progress
  const taken = rows.flatMap(({ what, frames }) => (what === 'missed' ? [] : frames))
  const near_mm = request.subject.kind === 'range' ? request.subject.near_mm : 0
  const run = current.id
  const self = useRunByItself({ shootId: shoot.id, devices, timing: request.timing, append, near_mm, run })
  const [inFull, setInFull] = useState(false)
  const onError = (error: Error) => void message.error(error.message)
  const press = (hand: boolean) => devices.ask({ do: 'press', hand, run })
  const onOpen = (width_px: number) => {
    const before = shoot.runs.find(({ begun_by }) => begun_by === run)?.frames[0]
    // Frames of two sizes are no series.
    if (before && before.width !== width_px) append({ kind: 'begin' })
  }
  const onTaken = (position?: number) => {
    if (!devices.on) return void append({ kind: 'taken', position })
    press(false).then(() => append({ kind: 'taken', position }), onError)
  }
  // Devices take a bracketing frame by frame, as they take everything.
  const body = devices.on ? undefined : bodySeriesOf(planned, sheet)
  useAwake(taken.length > 0 && ahead.length > 0 && !paused)
  const left_s = ahead.length * (plan.duration_s / plan.frameCount)

  return (
    <div className={styles.field}>
      <DepthRibbon plan={plan} request={request} taken={taken} gaps={gaps.map(({ after, before }) => [after, before])} />
      <div className={styles.columns}>
        <div>
          <ToTake
            progress={progress}
            planned={planned}
            focusLine={focusLine}
            readings={readings}
            phases={phases}
            busy={self.running}
            body={body}
            onTaken={onTaken}
            onEntry={append}
          />
          <Gaps gaps={gaps} readings={readings} onFilled={(frame) => append({ kind: 'filled', position: focusLine.positionOf(frame) })} />
          <div className={styles.row}>
            {!paused && taken.length > 0 && ahead.length > 0 && <TouchButton onClick={() => append({ kind: 'paused' })}>Pause</TouchButton>}
            {taken.length > 0 && <TouchButton onClick={() => append({ kind: 'repeated' })}>Taken again</TouchButton>}
            <TouchButton onClick={() => append({ kind: 'extra', what: 'divider' })}>Hand frame taken, to separate series</TouchButton>
            {devices.on && ahead.length > 0 && (
              <TouchButton onClick={() => (self.running ? self.stop() : self.start(ahead, inFull))}>
                {self.running ? 'Stop after this frame' : `Shoot the remaining ${ahead.length} automatically`}
              </TouchButton>
            )}
            {devices.on && ahead.length > 1 && (
              <label className={styles.inFull}>
                <input type="checkbox" checked={inFull} disabled={self.running} onChange={({ target }) => setInFull(target.checked)} /> in real time,
                as planned
              </label>
            )}
          </div>
          {watch && (
            <p className={styles.quiet} role="status">
              {watch.ended?.text ?? `Watching ${watch.folder}: each frame that comes ticks the next one here.`}
            </p>
          )}
          <AidSwitches />
          {/* A press of the body's own bracketing says itself how long it takes. */}
          {!body && ahead.length > 0 && left_s > 60 && <p className={styles.quiet}>About {durationText(left_s)} to go.</p>}
          {rows.length === 0 && (
            <Preparation
              lines={card.checklist}
              cautions={card.cautions}
              done={prepared}
              onChange={(line, done) => append({ kind: 'prepared', line, done })}
            />
          )}
          <LogList rows={rows} count={plan.frameCount} readings={readings} focusLine={focusLine} onEntry={append} />
          <LoggedRuns runs={runs} current={current} focusLine={focusLine} onEntry={append} />
          <BringLog shootId={shoot.id} />
        </div>
        <div>
          <LiveCheck shoot={shoot} focusLine={focusLine} readings={readings} near_mm={near_mm} begunBy={run} rows={rows} />
          <DevicesDoor
            devices={devices}
            faults={faults}
            onFaults={setFaults}
            onOpen={onOpen}
            busy={self.running}
            byRail={movesCamera(request.mover.kind) && request.subject.kind === 'depth'}
            onTest={() => append({ kind: 'extra', what: 'test' })}
            onDivider={() => press(true).then(() => append({ kind: 'extra', what: 'divider' }), onError)}
          />
        </div>
      </div>
      {/* Last, so that it moves nothing: it comes and goes with every tick, and a button that moves under the thumb loses the tap. */}
      {unsent > 0 && (
        <p className={styles.unsent} role="status">
          {unsent} {unsent === 1 ? 'entry is' : 'entries are'} waiting on this phone for a connection. Nothing is lost.
        </p>
      )}
    </div>
  )
}
