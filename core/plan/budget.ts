import { thirdStops } from '../optics'
import { planSeries } from './planSeries'
import type { Plan } from './reply'
import { isRefusal, refusal, say, type Sentence } from '../words'
import { frameTime_s, type PlanRequest, type Sharpness } from './request'

/** What there is: frames, or seconds, or both. */
export interface Budget {
  frames?: number
  duration_s?: number
}

/** A change of the plan that fits the budget. */
export interface BudgetWay {
  change: 'aperture' | 'overlap' | 'criterion' | 'all'
  request: PlanRequest
  plan: Plan
  givenUp: string
}

export interface BudgetReply {
  /** Frames that the budget allows. */
  most: number
  fits: boolean
  ways: BudgetWay[]
  /** What it comes to. */
  said: Sentence
}

const LEAST_OVERLAP = 0.1
const MOST_BLUR = 8

/**
 * The plan the other way round: which aperture, overlap or criterion brings the series within the budget, each with
 * the others left as they are, then all three together by a little each. Every answer is planned in full.
 * @throws Refusal where the budget allows no frame at all, or the request itself cannot be planned.
 */
export function fitBudget(request: PlanRequest, budget: Budget, lens?: { smallestFNumber: number }): BudgetReply {
  const perFrame = frameTime_s(request.timing)
  const byTime = budget.duration_s === undefined || perFrame === 0 ? Infinity : Math.floor(budget.duration_s / perFrame + 1e-9)
  const most = Math.min(budget.frames ?? Infinity, byTime)
  if (most < 1) throw refusal('plan.frameTime', { each_s: perFrame.toPrecision(2) }, 'budget')
  const present = planSeries(request)
  if (present.frameCount <= most)
    return {
      most,
      fits: true,
      ways: [],
      said: say('budget.fits', { count: present.frameCount, most }),
    }
  const ways = [byAperture(request, most, lens), byOverlap(request, most), byCriterion(request, most), byAll(request, most, lens)].filter(
    (way): way is BudgetWay => way !== undefined,
  )
  const said = ways.length > 0 ? say('budget.giveUp', { over: present.frameCount - most, most }) : say('budget.none', { most })
  return { most, fits: false, ways, said }
}

function byAperture(request: PlanRequest, most: number, lens?: { smallestFNumber: number }): BudgetWay | undefined {
  const optics = request.optics
  if (optics.kind !== 'lens') return undefined
  for (const fNumber of thirdStops(optics.fNumber, lens?.smallestFNumber ?? 45)) {
    const changed = { ...request, optics: { ...optics, fNumber } }
    const plan = fitting(changed, most)
    if (!plan) continue
    const part = Math.round((100 * plan.diffraction_mm) / plan.coc_mm)
    const givenUp =
      plan.diffraction_mm < plan.coc_mm
        ? `f/${fNumber}: diffraction takes ${part} % of the allowed blur everywhere`
        : `f/${fNumber}: diffraction blurs ${(plan.diffraction_mm / plan.coc_mm).toPrecision(2)} times what is allowed, everywhere`
    return { change: 'aperture', request: changed, plan, givenUp }
  }
  return undefined
}

function byOverlap(request: PlanRequest, most: number): BudgetWay | undefined {
  const overlap = largest(
    (step) => fitting({ ...request, overlap: step / 100 }, most) !== undefined,
    Math.floor(request.overlap * 100),
    100 * LEAST_OVERLAP,
  )
  if (overlap === undefined) return undefined
  const changed = { ...request, overlap: overlap / 100 }
  return {
    change: 'overlap',
    request: changed,
    plan: planSeries(changed),
    givenUp: `overlap of ${overlap} %: less safety when a step comes out long`,
  }
}

/** The largest whole number in [from ↓ to] for which `holds`, which once true stays true going down. */
function largest(holds: (value: number) => boolean, from: number, to: number): number | undefined {
  for (let value = from; value >= to; value--) if (holds(value)) return value
  return undefined
}

function byCriterion(request: PlanRequest, most: number): BudgetWay | undefined {
  const factor = leastFactor(request, most)
  if (factor === undefined) return undefined
  const changed = { ...request, sharpness: softer(request.sharpness, factor) }
  return {
    change: 'criterion',
    request: changed,
    plan: planSeries(changed),
    givenUp: `${factor.toPrecision(3)} times the blur where slices meet; slice centres stay as sharp`,
  }
}

function byAll(request: PlanRequest, most: number, lens?: { smallestFNumber: number }): BudgetWay | undefined {
  const optics = request.optics
  if (optics.kind !== 'lens') return undefined
  const stopped = thirdStops(optics.fNumber, lens?.smallestFNumber ?? 45)
    .map((fNumber) => ({ ...request, overlap: Math.min(request.overlap, 0.2), optics: { ...optics, fNumber } }))
    .filter((changed) => diffractionShare(changed) <= Math.SQRT1_2)
    .at(-1)
  if (!stopped) return undefined
  const factor = leastFactor(stopped, most)
  if (factor === undefined) return undefined
  const changed = { ...stopped, sharpness: softer(request.sharpness, factor) }
  const given = [`f/${changed.optics.fNumber}`, `${Math.round(changed.overlap * 100)} % overlap`]
  if (factor > 1) given.push(`${factor.toPrecision(3)} times the blur where slices meet`)
  return { change: 'all', request: changed, plan: planSeries(changed), givenUp: `a little of each: ${given.join(', ')}` }
}

/** The smallest softening of the criterion, in hundredths, that fits; 1 where none is needed. */
function leastFactor(request: PlanRequest, most: number): number | undefined {
  const fits = (hundredths: number) => fitting({ ...request, sharpness: softer(request.sharpness, hundredths / 100) }, most) !== undefined
  if (!fits(100 * MOST_BLUR)) return undefined
  let low = 99
  let high = 100 * MOST_BLUR
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (fits(middle)) high = middle
    else low = middle
  }
  return high / 100
}

function softer(sharpness: Sharpness, factor: number): Sharpness {
  if (sharpness.kind === 'coc') return { ...sharpness, coc_mm: sharpness.coc_mm * factor }
  if (sharpness.kind === 'pixels') return { ...sharpness, count: Number((sharpness.count * factor).toPrecision(6)) }
  return { ...sharpness, viewingDistance_mm: sharpness.viewingDistance_mm * factor }
}

function fitting(request: PlanRequest, most: number): Plan | undefined {
  try {
    const plan = planSeries(request)
    return plan.frameCount <= most ? plan : undefined
  } catch (error) {
    if (isRefusal(error)) return undefined
    throw error
  }
}

function diffractionShare(request: PlanRequest): number {
  try {
    const { diffraction_mm, coc_mm } = planSeries(request)
    return diffraction_mm / coc_mm
  } catch (error) {
    if (isRefusal(error)) return Infinity
    throw error
  }
}
