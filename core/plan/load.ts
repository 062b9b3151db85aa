import type { Plan } from './reply'
import { frameTime_s, type PlanRequest } from './request'

/** What the kit holds, as far as a series can use it up. A missing figure is not judged. */
export interface Supplies {
  card_GB?: number
  /** Exposures to a battery charge of the body. */
  framesPerCharge?: number
  /** Flash pops to a charge; absent without flash. */
  popsPerCharge?: number
}

export interface Load {
  perFrame_s: number
  duration_s: number
  exposures: number
  storage_GB: number
  pops: number
  verdicts: { what: 'card' | 'battery' | 'flash'; fits: boolean; text: string }[]
}

/** A battery that dies near the end loses the series, so a fifth is kept in hand. */
const BATTERY_USE = 0.8

/** Time, storage, batteries and flash of a plan, with what does not fit said. */
export function loadOf(plan: Plan, { timing }: PlanRequest, supplies: Supplies): Load {
  const exposures = plan.frameCount * timing.exposuresPerFrame
  const storage_GB = plan.storage_MB / 1000
  const pops = supplies.popsPerCharge === undefined ? 0 : exposures
  const verdicts: Load['verdicts'] = []
  if (supplies.card_GB !== undefined) {
    const fits = storage_GB <= supplies.card_GB
    const text = fits
      ? `The card is large enough: ${short(storage_GB)} of ${supplies.card_GB} GB.`
      : `The card is too small: ${short(storage_GB)} GB on ${supplies.card_GB} GB. Take a larger card, or shoot in parts.`
    verdicts.push({ what: 'card', fits, text })
  }
  if (supplies.framesPerCharge !== undefined) {
    const charges = Math.ceil(exposures / (supplies.framesPerCharge * BATTERY_USE))
    const text =
      charges <= 1
        ? `One full battery is enough: ${exposures} of ${supplies.framesPerCharge} exposures.`
        : `You need ${charges} batteries for ${exposures} exposures. Use mains power, or plan when to change without moving the camera.`
    verdicts.push({ what: 'battery', fits: charges <= 1, text })
  }
  if (supplies.popsPerCharge !== undefined) {
    const charges = Math.ceil(pops / (supplies.popsPerCharge * BATTERY_USE))
    const text =
      charges <= 1
        ? `The flash charge is enough: ${pops} of ${supplies.popsPerCharge} pops.`
        : `The flash needs ${charges} charges for ${pops} flashes. Power it from the mains, or lower its output.`
    verdicts.push({ what: 'flash', fits: charges <= 1, text })
  }
  return { perFrame_s: frameTime_s(timing), duration_s: plan.duration_s, exposures, storage_GB, pops, verdicts }
}

const short = (value: number) => String(Number(value.toPrecision(2)))
