import { imageDistance_mm, subjectDistance_mm } from '../optics'
import type { LensOptics } from './request'

/**
 * Entrance pupil to the plane of focus, in mm: f (1/m + 1/P) (Ray, asymmetrical lenses). Behind an attachment the
 * subject lies in the attachment's own front focal plane, f/m away.
 */
export function pupilDistance_mm(lens: LensOptics, magnification: number): number {
  if (lens.attachment) return lens.focalLength_mm / magnification
  return lens.focalLength_mm * (1 / magnification + 1 / lens.pupilRatio)
}

/**
 * Edge that registration costs on a rail, in percent of the picture's width, when composing at the first frame:
 * over the travel a feature at distance z from the entrance pupil grows as 1/z, and what grows past the edge is gone.
 */
export function railEdgeLoss_percent(travel_mm: number, pupil_mm: number): number {
  return 100 * (1 - pupil_mm / (pupil_mm + Math.abs(travel_mm)))
}

/**
 * Edge that focusing by the ring costs, in percent: image scale goes with v, largest for the nearest focus. A lens that
 * does not focus by extension alone breathes more or less: `times` as measured, 1 where unknown.
 */
export function ringEdgeLoss_percent(focalLength_mm: number, nearFocus_mm: number, farFocus_mm: number, times = 1): number {
  return 100 * (1 - (imageDistance_mm(focalLength_mm, farFocus_mm) / imageDistance_mm(focalLength_mm, nearFocus_mm)) ** times)
}

/** Front principal plane to the nearest part of the subject at magnification m, in mm (thin lens). */
export function workingDistance_mm(lens: LensOptics, magnification: number): number {
  return subjectDistance_mm(effectiveFocalLength_mm(lens, magnification), magnification)
}

/** Focal length of the lens with its attachment, if it has one: 1/f + 1/f_c with f_c = f/m gives f / (1 + m), in mm. */
export function effectiveFocalLength_mm({ focalLength_mm, attachment }: LensOptics, magnification: number): number {
  return attachment ? focalLength_mm / (1 + magnification) : focalLength_mm
}
