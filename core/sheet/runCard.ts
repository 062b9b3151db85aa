import { MOVERS, movesCamera } from '../movers'
import { cautions, checklist, composing, criterionMeaning, moverAdvice } from '../plan'
import { say } from '../words'
import { apertureText, exposureText, lengthText, significant, type UnitSystem } from '../units'
import { bodySeriesOf } from './bracketing'
import { nearestText } from './placement'
import { positionsOf, type Positions } from './positions'
import { ringStepsOf } from './ringSteps'
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
  /** What to do at every frame, or once where the body takes the series by itself; in order. */
  how: { title: string; steps: string[] }
  cautions: string[]
  positions: Positions
}

export function runCardOf(planned: SheetPlan, sheet: PlanSheet, shoot: { title: string; subject: string }, system: UnitSystem = 'metric'): RunCard {
  const { plan, request, gear } = planned
  const body = bodySeriesOf(planned, sheet)
  const context = {
    frameCount: plan.frameCount,
    light: gear.light.kind,
    filter_stops: sheet.filter_stops ?? 0,
    byBody: body !== undefined,
    surroundings: sheet.surroundings,
  }
  return {
    ...shoot,
    headline: plan.frameCount === 1 ? verdictOf(plan, request, gear.lens, system).headline : seriesText(plan, request, system),
    settings: [...framing(planned, sheet, system), ...exposure(planned, sheet)],
    checklist: checklist(request, context),
    how: body ? { title: 'What to do', steps: body.how } : { title: 'At every frame', steps: everyFrame(planned, sheet) },
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
    // Of a landscape nobody asks how many times smaller the near edge comes out.
    ...(request.subject.kind === 'depth' ? [{ label: 'Magnification', value: `${significant(plan.magnification, 3)} : 1` }] : []),
    { label: 'Nearest point', value: nearestText(planned, sheet, system) },
    {
      label: 'Mover',
      value: `${gear.rail?.name ?? (step ? `the body’s bracketing, step number ${step.step}` : MOVERS[request.mover.kind].name)}, ${start}`,
    },
    { label: 'Compose', value: composing(plan, request).text },
    { label: 'Sharpness', value: criterionMeaning(request.sharpness, request.camera) },
  ]
  if (planned.told && gear.known) list.push({ label: 'Measured', value: planned.told.text })
  if (gear.rail && gear.rail.backlash_mm > 0) {
    list.push({
      label: 'Backlash',
      value: `go back ${lengthText(gear.rail.backlash_mm * 2, system)} beyond the first frame and come up to every position from that side`,
    })
  }
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

/** Columns of a ring or a drive that is counted on from the first frame. */
const COUNTED = /from the first frame$/

/** How the focus is set for a frame. Where the lens has no scale to set it by, the subject itself is what there is. */
function focusing(planned: SheetPlan, sheet: PlanSheet): string {
  const { request } = planned
  const { action } = MOVERS[request.mover.kind]
  if (movesCamera(request.mover.kind) && request.subject.kind === 'depth') return action
  const { columns } = positionsOf(planned, sheet)
  const [first] = columns
  if (first.startsWith('Focus, on the lens scale')) return action
  if (ringStepsOf(planned.gear) && columns.some((title) => COUNTED.test(title))) return say(planned.gear.perClick ? 'card.click' : 'card.turn').text
  return request.subject.kind === 'range' ? say('card.focusFar').text : say('card.focusNear').text
}

function everyFrame(planned: SheetPlan, sheet: PlanSheet): string[] {
  const { request } = planned
  const { settle_s, delay_s, exposure_s } = request.timing
  const filter = (sheet.filter_stops ?? 0) > 0 && request.subject.kind === 'range'
  return [
    filter && 'filter off',
    focusing(planned, sheet),
    filter && 'filter on',
    settle_s > 0 && `hands off, wait ${significant(settle_s, 2)} s`,
    `press the shutter: ${delay_s > 0 ? `${significant(delay_s, 2)} s delay, then ` : ''}${exposureText(exposure_s)}`,
    'tick',
  ].filter((step): step is string => typeof step === 'string')
}

/** Rail or ring for this plan, where there is a choice. */
export function adviceOnMover({ plan, request }: SheetPlan, sheet: PlanSheet) {
  if (request.optics.kind !== 'lens' || request.subject.kind !== 'depth') return undefined
  return moverAdvice(plan, request.optics, request.subject.depth_mm, sheet.background_mm || undefined)
}
