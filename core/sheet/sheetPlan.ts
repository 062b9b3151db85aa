import { fromSensor_mm, scaleDistance_mm } from '../optics'
import { stepRunsOf, type Kit } from '../kit'
import { checkLens, checkTravel, frameTime_s, planSeries, stepFor, type Plan, type PlanRequest, type StepAdvice } from '../plan'
import { isRefusal, refusal, Refusal, type Sentence } from '../words'
import { gearOf, limitsOf, type Gear } from './gear'
import { handTimes } from './hands'
import { reachOf, requestOf } from './request'
import { toldOf } from './told'
import type { PlanSheet } from './sheet'

/** A sheet planned: the request it amounts to, the plan, and the kit it uses. */
export interface SheetPlan {
  request: PlanRequest
  plan: Plan
  gear: Gear
  /** The step number for the body's own bracketing. */
  step?: StepAdvice
  /** What runs tell of the rail or the lens's focus drive, and that it is planned with. */
  told?: Sentence
}

/**
 * Plans a sheet with a kit, refusing what the kit cannot do. `complete` checks a request against the limits that hold
 * for every request, wherever it comes from.
 * @throws Refusal with the sheet's key as its field.
 */
export function planSheet(sheet: PlanSheet, kit: Kit, complete: (request: PlanRequest) => PlanRequest = (request) => request): SheetPlan {
  try {
    const gear = gearOf(sheet, kit)
    const request = complete(requestOf(sheet, kit))
    checkHands(sheet)
    checkGear(sheet, gear, request)
    const plan = planSeries(request)
    if (request.mover.kind === 'rail' && gear.rail) checkTravel(plan.frames.at(-1)!.travel_mm ?? 0, gear.rail)
    const planned = sheet.mover === 'bracketing' && sheet.kind === 'depth' ? bracketed(request, plan, gear, kit) : { request, plan, gear }
    return withHands({ ...planned, ...toldOf(planned) }, sheet)
  } catch (error) {
    if (!isRefusal(error)) throw error
    throw new Refusal({ code: error.code, text: error.message }, keyOf(error.field, sheet))
  }
}

/** The plan with the time that the hand takes at every frame. */
function withHands(planned: SheetPlan, sheet: PlanSheet): SheetPlan {
  const { plan, request, gear } = planned
  const timing = { ...request.timing, ...handTimes(sheet, gear, plan.stride_mm) }
  return { ...planned, request: { ...request, timing }, plan: { ...plan, duration_s: plan.frameCount * frameTime_s(timing) } }
}

function checkHands({ move_s, filter_s }: PlanSheet): void {
  for (const [field, value] of Object.entries({ move_s, filter_s }))
    if (value !== null && !(value >= 0 && value <= 3600))
      throw refusal('plan.within', { what: 'seconds from 0 to 3600, or leave it empty for the usual time' }, field)
}

function checkGear(sheet: PlanSheet, { lens, body }: Gear, { optics, subject }: PlanRequest): void {
  if (optics.kind !== 'lens') return
  const f = lens.focalLength_mm
  if (sheet.kind === 'depth') {
    // A distance was checked against the lens's nearest focus already.
    if (sheet.reach !== 'distance') checkLens(limitsOf(lens), sheet.fNumber!, reachOf(sheet, { body, lens }))
    else checkLens(limitsOf(lens), sheet.fNumber!)
    return
  }
  if (subject.kind !== 'range') return
  const nearest = subject.from === 'sensor' ? subject.near_mm : scaleDistance_mm(subject.near_mm, f)
  checkLens(limitsOf(lens), sheet.fNumber!, undefined, Number.isNaN(fromSensor_mm(nearest, f)) ? Infinity : nearest)
}

/** The body's own bracketing moves by whole step numbers, where it is known what one of them does. */
function bracketed(request: PlanRequest, plan: Plan, gear: Gear, kit: Kit): SheetPlan {
  const { body, lens } = gear
  if (!body.bracketSteps) throw refusal('plan.noBracketing', { body: body.name }, 'mover')
  if (request.optics.kind !== 'lens') throw refusal('plan.objectiveDrive', undefined, 'mover')
  const bracketing = { steps: body.bracketSteps, mostFrames: body.bracketMost ?? Infinity }
  const now = { lens: lens.name, fNumber: request.optics.fNumber, magnification: plan.magnification }
  const step = stepFor(plan.stride_mm, bracketing, stepRunsOf(kit, body.name), now, { slice_mm: plan.depthOfField_mm, frames: plan.frameCount })
  if (step.stride_mm === undefined) return { request, plan, gear, step }
  const whole: PlanRequest = { ...request, mover: { kind: 'ring', resolution_mm: step.stride_mm } }
  return { request: whole, plan: planSeries(whole), gear, step }
}

const KEYS: Record<string, keyof PlanSheet> = {
  'camera.pixelsWide': 'body',
  'optics.fNumber': 'fNumber',
  'optics.focalLength_mm': 'lens',
  'optics.pupilRatio': 'lens',
  'reach.distance_mm': 'distance_mm',
  'mover.resolution_mm': 'rail',
  'mover.length_mm': 'rail',
  'mover.step': 'mover',
  'mover.mostFrames': 'mover',
  'subject.depth_mm': 'depth_mm',
  'subject.near_mm': 'near_mm',
  'subject.far_mm': 'far_mm',
  'sharpness.count': 'blur_pixels',
  'sharpness.coc_mm': 'coc_mm',
  'sharpness.width_mm': 'printWidth_mm',
  'sharpness.viewingDistance_mm': 'viewingDistance_mm',
  'timing.exposure_s': 'testExposure_s',
  overlap: 'overlap_percent',
}

const REACH_KEYS: Record<PlanSheet['reach'], keyof PlanSheet> = {
  lens: 'magnification',
  extension: 'extension_mm',
  closeUp: 'closeUpFocalLength_mm',
  reversed: 'extension_mm',
  faceToFace: 'frontFocalLength_mm',
  objective: 'designMagnification',
  ruler: 'acrossFrame_mm',
  distance: 'distance_mm',
}

/** The sheet's key for a path in a request. */
function keyOf(path: string, sheet: PlanSheet): string {
  if (path === 'optics.magnification') return REACH_KEYS[sheet.reach]
  if (path === 'subject') return sheet.kind === 'depth' ? 'depth_mm' : 'near_mm'
  if (path === 'sharpness') return { pixels: 'blur_pixels', coc: 'coc_mm', print: 'printWidth_mm' }[sheet.criterion]
  if (path === 'subject.near_mm' && sheet.kind === 'depth') return 'distance_mm'
  if (path === 'mover.resolution_mm' && sheet.rail === 'other') return 'resolution_mm'
  return KEYS[path] ?? path
}
