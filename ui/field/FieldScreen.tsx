'use client'

import { movesCamera } from '@/core/movers'
import { useMemo, useState } from 'react'
import { fieldProgress, phasesOf, runBegunBy } from '@/core/field'
import { FocusLine } from '@/core/plan'
import { readingsOf, runCardOf, shootingOrder, type PlanSheet, type SheetPlan, storedSheetPlan } from '@/core/sheet'
import { durationText } from '@/core/units'
import { type ShootDetail } from '@/schemas'
import { message } from '../messages'
import { useKit } from '../api'
import { DepthRibbon } from '../ribbon'
import { Shell, ShootHeader } from '../shell'
import { useUnits } from '../units'
import { TouchButton } from './TouchButton'
import { DevicesDoor } from './DevicesDoor'
import { LiveCheck } from './LiveCheck'
import { LogList } from './LogList'
import { NextFrame } from './NextFrame'
import { Preparation } from './Preparation'
import { readingOf } from './reading'
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
  const [faults, setFaults] = useState<string[]>([])
  const focusLine = useMemo(() => new FocusLine(plan, shootingOrder(planned, sheet)), [planned, plan, sheet])
  const progress = useMemo(() => fieldProgress(focusLine, log), [focusLine, log])
  const readings = useMemo(() => readingsOf(planned, sheet, system), [planned, sheet, system])
  const card = useMemo(() => runCardOf(planned, sheet, shoot, system), [planned, sheet, shoot, system])
  const filter = (sheet.filter_stops ?? 0) > 0 && request.subject.kind === 'range'
  const phases = useMemo(() => phasesOf(request.timing, filter), [request.timing, filter])
  const { taken, ahead, gaps, paused, prepared } = progress
  const framesTaken = taken.filter(({ what }) => what === 'frame').length
  const near_mm = request.subject.kind === 'range' ? request.subject.near_mm : 0
  const run = runBegunBy(log)
  const self = useRunByItself({ shootId: shoot.id, devices, timing: request.timing, append, near_mm, run })
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
  const minutes = ahead.length * (plan.duration_s / plan.frameCount)

  return (
    <div className={styles.field}>
      <DepthRibbon
        plan={plan}
        request={request}
        taken={taken.flatMap(({ frame }) => frame ?? [])}
        gaps={gaps.map(({ after, before }) => [after, before])}
      />
      {unsent > 0 && (
        <p className={styles.unsent} role="status">
          {unsent} {unsent === 1 ? 'entry is' : 'entries are'} waiting on this phone for a connection. Nothing is lost.
        </p>
      )}
      <div className={styles.columns}>
        <div>
          {paused ? (
            <section className={styles.next}>
              <p className={styles.words}>
                Pausing after frame {framesTaken} of {framesTaken + ahead.length}
              </p>
              <TouchButton look="primary" className={styles.big} onClick={() => append({ kind: 'resumed' })}>
                Continue
              </TouchButton>
            </section>
          ) : ahead.length > 0 ? (
            <NextFrame
              ahead={ahead}
              shot={framesTaken}
              of={framesTaken + ahead.length}
              readings={readings}
              phases={phases}
              reading={readingOf(planned, focusLine)}
              busy={self.running}
              onTaken={onTaken}
              onMissed={() => append({ kind: 'missed' })}
            />
          ) : (
            <section className={styles.next}>
              <p className={styles.words}>{progress.complete ? 'The plan is covered.' : 'You reached the end, but there is a gap to close.'}</p>
            </section>
          )}
          {gaps.map(({ after, before, fill }) => (
            <p key={before.near_mm} className={styles.gap}>
              ▲ Gap: go back to <strong>{readings.of(fill[0], 0)[0]}</strong>
              {fill.length > 1 && ` and ${fill.length - 1} more`}, between {readings.of(after, 0)[0]} and {readings.of(before, 0)[0]}.{' '}
              <TouchButton onClick={() => append({ kind: 'taken', position: focusLine.positionOf(fill[0]) })}>Taken</TouchButton>
            </p>
          ))}
          <div className={styles.row}>
            {!paused && framesTaken > 0 && ahead.length > 0 && <TouchButton onClick={() => append({ kind: 'paused' })}>Pause</TouchButton>}
            {taken.length > 0 && <TouchButton onClick={() => append({ kind: 'repeated' })}>Taken again</TouchButton>}
            <TouchButton onClick={() => append({ kind: 'extra', what: 'divider' })}>Divider taken</TouchButton>
            {taken.length > 0 && <TouchButton onClick={() => append({ kind: 'begin' })}>Start a new run</TouchButton>}
            {devices.on && ahead.length > 0 && (
              <TouchButton onClick={() => (self.running ? self.stop() : self.start(ahead))}>
                {self.running ? 'Stop after this frame' : `Shoot the remaining ${ahead.length} automatically`}
              </TouchButton>
            )}
          </div>
          {ahead.length > 0 && minutes > 60 && <p className={styles.quiet}>About {durationText(minutes)} to go.</p>}
          {framesTaken === 0 && (
            <Preparation
              lines={card.checklist}
              cautions={card.cautions}
              done={prepared}
              onChange={(line, done) => append({ kind: 'prepared', line, done })}
            />
          )}
          <LogList taken={taken} count={plan.frameCount} readings={readings} onMistake={(entry) => append({ kind: 'undone', entry })} />
        </div>
        <div>
          <LiveCheck shoot={shoot} focusLine={focusLine} readings={readings} near_mm={near_mm} taken={taken} />
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
    </div>
  )
}
