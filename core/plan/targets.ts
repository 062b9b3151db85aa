import { diffractionBlur_mm, imageDistance_mm, magnificationAt, totalBlur_mm } from '../optics'
import type { Plan } from './reply'
import type { LensOptics, PlanRequest } from './request'
import { workingFNumberOf } from './sharpness'

/** A named thing in a landscape, so far from the front principal plane; Infinity for the horizon. */
export interface Target {
  name: string
  distance_mm: number
}

export interface ServedTarget extends Target {
  /** 1-based frame that holds it sharpest. */
  frame: number
  blur_mm: number
  /** Within the allowed blur. */
  sharp: boolean
}

/** Which frame of a plan by distances serves each target, and how sharply. Empty for a plan by depth. */
export function serveTargets(plan: Plan, request: PlanRequest, targets: Target[]): ServedTarget[] {
  const lens = request.optics
  if (plan.hyperfocal_mm === undefined || lens.kind !== 'lens') return []
  return targets.map((target) => {
    const blurs = plan.frames.map(({ focusDistance_mm }) => rangeBlur_mm(request, lens, focusDistance_mm!, target.distance_mm))
    const blur_mm = Math.min(...blurs)
    return { ...target, frame: blurs.indexOf(blur_mm) + 1, blur_mm, sharp: blur_mm <= plan.coc_mm * (1 + 1e-6) }
  })
}

/**
 * Blur on the sensor, in mm, of a point at distance t with focus at s: defocus (f/N) v |1/s − 1/t| (Kingslake) and
 * diffraction as root of the sum of squares.
 */
export function rangeBlur_mm(
  request: Pick<PlanRequest, 'diffraction' | 'wavelength_nm'>,
  lens: LensOptics,
  focus_mm: number,
  point_mm: number,
): number {
  const v = imageDistance_mm(lens.focalLength_mm, focus_mm)
  const defocus = (lens.focalLength_mm / lens.fNumber) * v * Math.abs(1 / focus_mm - 1 / point_mm)
  if (!request.diffraction) return defocus
  const working = workingFNumberOf(lens, magnificationAt(lens.focalLength_mm, focus_mm))
  return totalBlur_mm(defocus, diffractionBlur_mm(working, request.wavelength_nm / 1e6))
}
