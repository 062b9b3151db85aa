import { MOVERS, movesCamera } from '../movers'
import { fromSensor_mm, hyperfocal_mm, scaleDistance_mm, thirdStops } from '../optics'
import { effectiveFocalLength_mm, pupilDistance_mm, railEdgeLoss_percent, ringEdgeLoss_percent, workingDistance_mm } from './framing'
import type { Plan, PlanNote, PlannedFrame } from './reply'
import { refusal, say } from '../words'
import { frameTime_s, type DepthSubject, type LensOptics, type PlanRequest, type RangeSubject } from './request'
import { lensOptics, objectiveOptics, type SliceOptics } from './sharpness'
import { nearMagnification, singleFrameVerdict } from './singleFrame'
import { evenSlices, rangeSlices, roundStride_mm } from './slices'

/**
 * Plans a focus series: the slices that cover the whole subject, each overlapping the next by at least what was
 * asked, after rounding to what the mover can do.
 * @throws Refusal with the field to change where no plan is possible.
 */
export function planSeries(request: PlanRequest): Plan {
  return request.subject.kind === 'depth' ? planDepth(request, request.subject) : planRange(request, request.subject)
}

function planDepth(request: PlanRequest, subject: DepthSubject): Plan {
  const { optics, mover } = request
  if (optics.kind === 'lens' && optics.magnification === undefined) throw refusal('plan.needsMagnification', undefined, 'optics.magnification')
  const sharp = optics.kind === 'lens' ? lensOptics(optics, optics.magnification!, request) : objectiveOptics(optics, request)
  const slice = sharp.depthOfField_mm
  const wanted = slice * (1 - request.overlap)
  const stride = mover.resolution_mm ? roundStride_mm(wanted, mover.resolution_mm) : wanted
  if (stride <= 0) {
    const facts = { mover: MOVERS[mover.kind].drive, resolution_mm: mover.resolution_mm!, wanted: wanted.toPrecision(2) }
    throw refusal('plan.resolution', facts, 'mover.resolution_mm')
  }
  const slices = evenSlices(-request.leadIn_slices * stride, subject.depth_mm + request.runOut_slices * stride, slice, stride)
  const frames = slices.map(({ focus, near, far }, k): PlannedFrame => ({
    index: k + 1,
    position_mm: focus,
    travel_mm: k * stride,
    near_mm: near,
    far_mm: far,
  }))
  const lens: LensOptics = optics.kind === 'lens' ? optics : asLens(optics.designTube_mm / optics.designMagnification)
  const travel = frames.at(-1)!.travel_mm!
  const distance = workingDistance_mm(lens, sharp.magnification)
  return {
    ...common(request, sharp, frames),
    stride_mm: stride,
    overlap: 1 - stride / slice,
    edgeLoss_percent: movesCamera(mover.kind)
      ? railEdgeLoss_percent(travel, pupilDistance_mm(lens, sharp.magnification))
      : ringEdgeLoss_percent(effectiveFocalLength_mm(lens, sharp.magnification), distance, distance + travel, lens.breathing),
    workingDistance_mm: distance,
    notes: notes(request, sharp),
  }
}

function planRange(request: PlanRequest, asked: RangeSubject): Plan {
  const lens = request.optics
  if (lens.kind !== 'lens') throw refusal('plan.rangeNeedsLens', undefined, 'optics.kind')
  const subject = fromLens(asked, lens)
  const measured = { ...request, subject }
  const sharp = lensOptics(lens, nearMagnification(measured, lens), request)
  const hyperfocal = hyperfocal_mm(lens.focalLength_mm, lens.fNumber, sharp.allowance_mm)
  if (hyperfocal <= 2 * lens.focalLength_mm) throw refusal('plan.blurTooWide', undefined, 'sharpness')
  const slices = rangeSlices(...extended(subject, hyperfocal, request), hyperfocal, lens.focalLength_mm, request.overlap)
  const frames = slices.map(({ focus, near, far }, k): PlannedFrame => ({
    index: k + 1,
    focusDistance_mm: focus,
    scaleDistance_mm: scaleDistance_mm(focus, lens.focalLength_mm),
    near_mm: near,
    far_mm: far,
  }))
  const rail: PlanNote[] = movesCamera(request.mover.kind) ? [note('range-by-ring')] : []
  return {
    ...common(measured, sharp, frames),
    stride_mm: frames.length > 1 ? frames[1].focusDistance_mm! - frames[0].focusDistance_mm! : 0,
    overlap: leastOverlap(frames, request.overlap),
    edgeLoss_percent: ringEdgeLoss_percent(lens.focalLength_mm, frames[0].focusDistance_mm!, frames.at(-1)!.focusDistance_mm!, lens.breathing),
    workingDistance_mm: subject.near_mm,
    hyperfocal_mm: hyperfocal,
    notes: [...notes(request, sharp), ...rail],
  }
}

function common(request: PlanRequest, sharp: SliceOptics, frames: PlannedFrame[]) {
  const { rawSize_MB } = request.camera
  return {
    coc_mm: sharp.coc_mm,
    diffraction_mm: sharp.diffraction_mm,
    magnification: sharp.magnification,
    workingFNumber: sharp.workingFNumber,
    depthOfField_mm: sharp.depthOfField_mm,
    frameCount: frames.length,
    frames,
    singleFrame: singleFrameVerdict(request),
    duration_s: frames.length * frameTime_s(request.timing),
    storage_MB: frames.length * request.timing.exposuresPerFrame * rawSize_MB,
  }
}

/** Distances turned to the front principal plane, with what cannot be focused refused. */
function fromLens(subject: RangeSubject, lens: LensOptics): RangeSubject {
  const f = lens.focalLength_mm
  if (subject.far_mm < subject.near_mm) throw refusal('plan.farNearer', undefined, 'subject.far_mm')
  const near_mm = subject.from === 'sensor' ? fromSensor_mm(subject.near_mm, f) : subject.near_mm
  const far_mm = subject.from === 'sensor' ? fromSensor_mm(subject.far_mm, f) : subject.far_mm
  if (!(near_mm > f * 1.01)) {
    const least = subject.from === 'sensor' ? 4 * f : 1.01 * f
    throw refusal('plan.tooNear', { focalLength_mm: f, least_mm: Math.ceil(least), from: subject.from }, 'subject.near_mm')
  }
  return { kind: 'range', from: 'lens', near_mm, far_mm }
}

/** The range with lead-in and run-out added, in strides, evenly in dioptres; never nearer than the lens can image. */
function extended(subject: RangeSubject, hyperfocal: number, request: PlanRequest): [number, number] {
  const lens = request.optics as LensOptics
  const stride = (2 / (hyperfocal - lens.focalLength_mm)) * (1 - request.overlap)
  const near = Math.min(1 / subject.near_mm + request.leadIn_slices * stride, Math.max(1 / subject.near_mm, 0.98 / lens.focalLength_mm))
  const far = Math.max(0, 1 / subject.far_mm - request.runOut_slices * stride)
  return [1 / near, far > 0 ? 1 / far : Infinity]
}

function leastOverlap(frames: PlannedFrame[], asked: number): number {
  const overlaps = frames.slice(1).map((frame, k) => (1 / frame.near_mm - 1 / frames[k].far_mm) / (1 / frame.near_mm - 1 / frame.far_mm))
  return overlaps.length > 0 ? Math.min(...overlaps) : asked
}

function asLens(focalLength_mm: number): LensOptics {
  return { kind: 'lens', focalLength_mm, fNumber: 1, pupilRatio: 1 }
}

function notes(request: PlanRequest, sharp: SliceOptics): PlanNote[] {
  const list: PlanNote[] = []
  if (sharp.beyondReach) {
    list.push({
      code: 'diffraction-exceeds-criterion',
      text: say('note.diffraction-exceeds-criterion', {
        diffraction: micrometres(sharp.diffraction_mm),
        allowed: micrometres(sharp.coc_mm),
        instead: wider(request, sharp),
      }).text,
    })
  } else if (sharp.waveLimited) {
    list.push(note('wave-floor'))
  }
  if (!movesCamera(request.mover.kind) && request.subject.kind === 'depth') {
    list.push(note('scale-at-near-edge'))
  }
  return list
}

function wider(request: PlanRequest, sharp: SliceOptics): string {
  if (request.optics.kind !== 'lens') return say('wider.objective').text
  const optics = request.optics
  const fits = thirdStops(1, optics.fNumber).filter((fNumber) => !lensOptics({ ...optics, fNumber }, sharp.magnification, request).beyondReach)
  return fits.length > 0 ? say('wider.open', { fNumber: fits.at(-1)! }).text : say('wider.none').text
}

const note = (code: 'range-by-ring' | 'wave-floor' | 'scale-at-near-edge'): PlanNote => ({ code, text: say(`note.${code}`).text })

function micrometres(length_mm: number): string {
  return `${(length_mm * 1000).toFixed(1)} µm`
}
