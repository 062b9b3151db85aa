import {
  magnificationFaceToFace,
  magnificationFromRuler,
  magnificationReversed,
  magnificationWithCloseUp,
  magnificationWithExtension,
} from '../optics'
import { refusal } from '../words'
import type { LensOptics, Optics } from './request'

/** How a magnification is reached. Lengths in mm. */
export type Reach =
  | { kind: 'lens'; magnification: number }
  /** Tubes or bellows behind a lens that reaches `base` by itself. */
  | { kind: 'extension'; base: number; extension_mm: number }
  | { kind: 'closeUp'; closeUpFocalLength_mm: number }
  | { kind: 'reversed'; register_mm: number; extension_mm: number }
  /** A second lens, reversed, in front of this one. */
  | { kind: 'faceToFace'; frontFocalLength_mm: number; frontFNumber: number }
  | { kind: 'objective'; designMagnification: number; designTube_mm: number; tube_mm: number; numericalAperture: number }
  /** Measured: so many millimetres of a ruler fill the width of the frame. */
  | { kind: 'ruler'; acrossFrame_mm: number }

/**
 * The optics that a way to magnification amounts to. A reversed lens swaps its pupils, and so does its pupil ratio; an
 * attachment before a lens set to infinity costs no light, and the narrower of the two pupils counts (Ray).
 */
export function opticsBy(reach: Reach, lens: Omit<LensOptics, 'kind'>, sensorWidth_mm: number): Optics {
  const f = lens.focalLength_mm
  const plain = { ...lens, kind: 'lens' as const }
  switch (reach.kind) {
    case 'lens':
      return { ...plain, magnification: reach.magnification }
    case 'extension':
      return { ...plain, magnification: magnificationWithExtension(reach.base, reach.extension_mm, f) }
    case 'closeUp':
      return { ...plain, magnification: magnificationWithCloseUp(f, reach.closeUpFocalLength_mm), attachment: true }
    case 'reversed':
      return { ...plain, pupilRatio: 1 / lens.pupilRatio, magnification: magnificationReversed(reach.register_mm, reach.extension_mm, f) }
    case 'faceToFace': {
      const magnification = magnificationFaceToFace(f, reach.frontFocalLength_mm)
      return { ...plain, fNumber: Math.max(lens.fNumber, magnification * reach.frontFNumber), magnification, attachment: true }
    }
    case 'objective':
      return reach
    case 'ruler':
      return { ...plain, magnification: magnificationFromRuler(sensorWidth_mm, reach.acrossFrame_mm) }
  }
}

/** What a lens can do by itself. `nearest_mm` is measured from the sensor. */
export interface LensLimits {
  name: string
  widestFNumber: number
  smallestFNumber: number
  nearest_mm: number
  mostMagnification: number
}

/**
 * Refuses what the lens has not: an aperture, a magnification beyond its own, a distance nearer than it focuses.
 * `nearest_mm` is the nearest point of the subject from the sensor, where the plan is by distance.
 * @throws Refusal at the field, with what would be possible.
 */
export function checkLens(limits: LensLimits, fNumber: number, reach?: Reach, nearest_mm = Infinity): void {
  const { name, widestFNumber, smallestFNumber, mostMagnification } = limits
  if (fNumber < widestFNumber || fNumber > smallestFNumber)
    throw refusal('plan.fNumber', { lens: name, widest: widestFNumber, smallest: smallestFNumber }, 'optics.fNumber')
  if (reach?.kind === 'lens' && reach.magnification > mostMagnification * (1 + 1e-9)) {
    throw refusal('plan.magnification', { lens: name, most: mostMagnification }, 'optics.magnification')
  }
  if (nearest_mm < limits.nearest_mm) {
    throw refusal('plan.lensTooNear', { lens: name, nearest_mm: limits.nearest_mm }, 'subject.near_mm')
  }
}
