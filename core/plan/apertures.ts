import { defocusBlur_mm, diffractionBlur_mm, imageDistance_mm, thirdStops, totalBlur_mm } from '../optics'
import { isRefusal, refusal, say, type Sentence } from '../words'
import type { LensOptics, PlanRequest } from './request'
import { planSeries } from './planSeries'
import { workingFNumberOf } from './sharpness'

/** Blur on the sensor at one marked aperture, in mm, and what a series at it would take. */
export interface AperturePoint {
  fNumber: number
  /** In the middle of a slice: diffraction alone. */
  centre_mm: number
  /** Where two slices meet: diffraction and the defocus that the plan allows. */
  edge_mm: number
  /** At the ends of the subject with one frame focused on its middle. */
  oneFrame_mm: number
  /** undefined where no series is possible. */
  frameCount?: number
}

export interface ApertureAdvice {
  points: AperturePoint[]
  coc_mm: number
  /** The marked aperture to use, and why. */
  recommended?: number
  reason: Sentence
}

/**
 * How the aperture trades diffraction against frames: blur and frame count at every marked aperture of the lens
 * (`widest` to `narrowest`). Recommended is the smallest opening that leaves at least half of the allowed blur, by
 * area, to defocus: beyond it diffraction takes more than stopping down gives (Ray, *Applied Photographic Optics*).
 * @throws Refusal where the request has no lens.
 */
export function apertureAdvice(request: PlanRequest, widest: number, narrowest: number): ApertureAdvice {
  const lens = request.optics
  if (lens.kind !== 'lens') throw refusal('plan.oneAperture', undefined, 'optics.kind')
  const points = thirdStops(widest, narrowest).map((fNumber) => pointAt({ ...request, optics: { ...lens, fNumber } }, { ...lens, fNumber }))
  const coc_mm = points.length > 0 ? cocOf(request, lens) : 0
  const fit = points.filter(({ centre_mm, frameCount }) => frameCount !== undefined && centre_mm <= coc_mm * Math.SQRT1_2)
  const recommended = fit.at(-1)?.fNumber
  return { points, coc_mm, recommended, reason: reasonFor(recommended, fit.at(-1), points, widest) }
}

function pointAt(request: PlanRequest, lens: LensOptics): AperturePoint {
  const { magnification, half_mm } = middleOf(request, lens)
  const working = workingFNumberOf(lens, magnification)
  const centre_mm = request.diffraction ? diffractionBlur_mm(working, request.wavelength_nm / 1e6) : 0
  const point = { fNumber: lens.fNumber, centre_mm, oneFrame_mm: totalBlur_mm(half_mm(working), centre_mm) }
  try {
    const { frameCount, coc_mm } = planSeries(request)
    return { ...point, frameCount, edge_mm: Math.max(coc_mm, centre_mm) }
  } catch (error) {
    if (isRefusal(error)) return { ...point, edge_mm: centre_mm }
    throw error
  }
}

/** Magnification in the middle of the subject, and the defocus blur at its ends for focus there. */
function middleOf({ subject }: PlanRequest, lens: LensOptics) {
  const f = lens.focalLength_mm
  if (subject.kind === 'depth') {
    return { magnification: lens.magnification!, half_mm: (working: number) => defocusBlur_mm(subject.depth_mm / 2, lens.magnification!, working) }
  }
  // Even in dioptres, both ends are equally blurred: c = A v |1/s − 1/near|.
  const vergence = (1 / subject.near_mm + 1 / subject.far_mm) / 2
  const focus = 1 / vergence
  const v = imageDistance_mm(f, focus)
  return { magnification: v / focus, half_mm: () => (f / lens.fNumber) * v * Math.abs(1 / subject.near_mm - vergence) }
}

function cocOf(request: PlanRequest, lens: LensOptics): number {
  try {
    return planSeries({ ...request, optics: lens }).coc_mm
  } catch (error) {
    if (isRefusal(error)) return 0
    throw error
  }
}

function reasonFor(recommended: number | undefined, best: AperturePoint | undefined, points: AperturePoint[], widest: number): Sentence {
  if (recommended === undefined) return say('aperture.none', { widest })
  const alone = points.find(({ oneFrame_mm, edge_mm, frameCount }) => frameCount !== undefined && oneFrame_mm <= edge_mm)
  if (alone && alone.fNumber <= recommended) return say('aperture.oneFrame', { fNumber: alone.fNumber })
  return say('aperture.best', { fNumber: recommended, count: best!.frameCount! })
}
