import { useMemo } from 'react'
import { fieldProgress, phasesOf, runsOf, type FieldEntry } from '@/core/field'
import { FocusLine } from '@/core/plan'
import { readingsOf, runCardOf, shootingOrder, type PlanSheet, type SheetPlan } from '@/core/sheet'
import type { UnitSystem } from '@/core/units'

interface Asked {
  planned: SheetPlan
  sheet: PlanSheet
  shoot: { title: string; subject: string }
  log: FieldEntry[]
  units: UnitSystem
  byDevices: boolean
}

/** What a live run card shows: how the run stands by its log, and every frame in the terms of what moves the focus. */
export function useCard({ planned, sheet, shoot, log, units, byDevices }: Asked) {
  const { plan, request } = planned
  const focusLine = useMemo(() => new FocusLine(plan, shootingOrder(planned, sheet)), [planned, plan, sheet])
  const { runs, current } = useMemo(() => runsOf(log), [log])
  const progress = useMemo(() => fieldProgress(focusLine, current.entries), [focusLine, current])
  const readings = useMemo(() => readingsOf(planned, sheet, units), [planned, sheet, units])
  const card = useMemo(() => runCardOf(planned, sheet, shoot, units), [planned, sheet, shoot, units])
  const filter = (sheet.filter_stops ?? 0) > 0 && request.subject.kind === 'range'
  const phases = useMemo(() => phasesOf(request.timing, { filter, byDevices }), [request.timing, filter, byDevices])
  return { focusLine, runs, current, progress, readings, card, phases }
}
