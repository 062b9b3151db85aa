import { MOVERS } from '../movers'
import { cautions, chainedParts, checklist, composing, criterionMeaning, moverAdvice } from '../plan'
import { apertureText, exposureText, lengthText, significant, type UnitSystem } from '../units'
import { nearestText } from './placement'
import { positionsOf, type Positions } from './positions'
import type { PlanSheet } from './sheet'
import type { SheetPlan } from './sheetPlan'
import { seriesText, verdictOf } from './verdict'

/** The field sheet of a plan, as words: whatever prints it, page or PDF, prints the same. */
export interface RunCard {
  title: string
  subject: string
  headline: string
  /** Framing and exposure. */
  settings: { label: string; value: string }[]
  checklist: string[]
  /** What to do at every frame, in order. */
  everyFrame: string[]
  cautions: string[]
  positions: Positions
}

export function runCardOf(planned: SheetPlan, sheet: PlanSheet, shoot: { title: string; subject: string }, system: UnitSystem = 'metric'): RunCard {
  const { plan, request, gear } = planned
  const context = { frameCount: plan.frameCount, light: gear.light.kind, filter_stops: sheet.filter_stops ?? 0, surroundings: sheet.surroundings }
  return {
    ...shoot,
    headline: plan.frameCount === 1 ? verdictOf(plan, request, gear.lens, system).headline : seriesText(plan, request, system),
    settings: [...framing(planned, sheet, system), ...exposure(planned, sheet)],
    checklist: checklist(request, context),
    everyFrame: everyFrame(planned, sheet),
    cautions: cautions(request, context),
    positions: positionsOf(planned, sheet, system),
  }
}

function framing(planned: SheetPlan, sheet: PlanSheet, system: UnitSystem): RunCard['settings'] {
  const { plan, request, gear, step } = planned
  const lens = request.optics
  const start = sheet.direction === 'far' ? 'far end first' : 'near end first'
  const list = [
    { label: 'Body and lens', value: `${gear.body.name}; ${lens.kind === 'objective' ? `objective ${lens.designMagnification} ×` : gear.lens.name}` },
    { label: 'Magnification', value: `${significant(plan.magnification, 3)} : 1` },
    { label: 'Nearest point', value: nearestText(planned, sheet, system) },
    {
      label: 'Mover',
      value: `${gear.rail?.name ?? (step ? `the body’s bracketing, step number ${step.step}` : MOVERS[request.mover.kind].name)}, ${start}`,
    },
    { label: 'Compose', value: composing(plan, request).text },
    { label: 'Sharpness', value: criterionMeaning(request.sharpness, request.camera) },
  ]
  if (gear.rail && gear.rail.backlash_mm > 0) {
    list.push({
      label: 'Backlash',
      value: `go back ${lengthText(gear.rail.backlash_mm * 2, system)} beyond the first frame and come up to every position from that side`,
    })
  }
  const parts = step ? chainedParts(plan.frameCount, gear.body.bracketMost ?? Infinity) : []
  if (parts.length > 1) list.push({ label: 'Parts', value: `${parts.join(' + ')} frames; each begins on the last focus of the one before` })
  return list
}

function exposure({ request, gear }: SheetPlan, sheet: PlanSheet): RunCard['settings'] {
  const { optics, timing } = request
  const aperture = optics.kind === 'lens' ? apertureText(optics.fNumber) : `NA ${optics.numericalAperture}`
  const filters = [sheet.filter_stops ? `${sheet.filter_stops} stops of filter` : '', sheet.polariser_stops ? 'polariser' : '']
    .filter(Boolean)
    .join(', ')
  return [
    { label: 'Exposure', value: `${aperture}, ${exposureText(timing.exposure_s)}${filters ? ` with ${filters}` : ''}, all set by hand` },
    {
      label: 'Light',
      value: gear.light.kind === 'flash' ? `${gear.light.name}: wait ${significant(timing.recycling_s, 2)} s between pops` : gear.light.name,
    },
    ...(timing.exposuresPerFrame > 1
      ? [{ label: 'Sensor shift', value: `${timing.exposuresPerFrame} captures a frame; nothing may move during them` }]
      : []),
  ]
}

function everyFrame({ request }: SheetPlan, sheet: PlanSheet): string[] {
  const { settle_s, delay_s, exposure_s } = request.timing
  const filter = (sheet.filter_stops ?? 0) > 0 && request.subject.kind === 'range'
  return [
    filter && 'filter off',
    MOVERS[request.mover.kind].action,
    filter && 'filter on',
    settle_s + delay_s > 0 && `hands off, wait ${significant(settle_s + delay_s, 2)} s`,
    `expose ${exposureText(exposure_s)}`,
    'tick',
  ].filter((step): step is string => typeof step === 'string')
}

/** Rail or ring for this plan, where there is a choice. */
export function adviceOnMover({ plan, request }: SheetPlan, sheet: PlanSheet) {
  if (request.optics.kind !== 'lens' || request.subject.kind !== 'depth') return undefined
  return moverAdvice(plan, request.optics, request.subject.depth_mm, sheet.background_mm || undefined)
}
