import { focusForFar_mm, focusForNear_mm, hyperfocal_mm, magnificationAt, thirdStops } from '../optics'
import { say } from '../words'
import type { SingleFrame } from './reply'
import type { LensOptics, PlanRequest, RangeSubject } from './request'
import { lensOptics, objectiveOptics } from './sharpness'

/** Whether one frame can hold the whole subject, and at which of the usual marked apertures. */
export function singleFrameVerdict(request: PlanRequest): SingleFrame {
  const { optics, subject } = request
  if (optics.kind === 'objective') {
    const { depthOfField_mm, beyondReach } = objectiveOptics(optics, request)
    const possible = subject.kind === 'depth' && !beyondReach && depthOfField_mm >= subject.depth_mm
    return { possible, fNumber: null, reason: say(possible ? 'single.possible' : 'single.objective').text }
  }
  const sharp = thirdStops(1, 45).filter((fNumber) => !lensOptics({ ...optics, fNumber }, nearMagnification(request, optics), request).beyondReach)
  const enough = sharp.find((fNumber) => holdsAll(request, { ...optics, fNumber }))
  if (enough !== undefined) return { possible: true, fNumber: enough, reason: say('single.at', { fNumber: enough }).text }
  if (sharp.length === 0) return { possible: false, fNumber: null, reason: say('single.diffraction').text }
  return {
    possible: false,
    fNumber: null,
    reason: say('single.notEnough', { fNumber: sharp.at(-1)! }).text,
  }
}

/** Magnification where it is largest: given, or at the nearest point of a range. */
export function nearMagnification(request: PlanRequest, optics: LensOptics): number {
  if (request.subject.kind === 'depth') return optics.magnification!
  return magnificationAt(optics.focalLength_mm, request.subject.near_mm)
}

function holdsAll(request: PlanRequest, lens: LensOptics): boolean {
  const { allowance_mm, depthOfField_mm } = lensOptics(lens, nearMagnification(request, lens), request)
  if (request.subject.kind === 'depth') return depthOfField_mm >= request.subject.depth_mm
  return rangeInOne(request.subject, lens, allowance_mm)
}

function rangeInOne(subject: RangeSubject, lens: LensOptics, allowance_mm: number): boolean {
  const hyperfocal = hyperfocal_mm(lens.focalLength_mm, lens.fNumber, allowance_mm)
  return focusForNear_mm(subject.near_mm, hyperfocal, lens.focalLength_mm) >= focusForFar_mm(subject.far_mm, hyperfocal, lens.focalLength_mm)
}
