import { defocusBlur_mm, totalBlur_mm } from '../optics'
import type { Plan } from './reply'
import type { PlanRequest } from './request'
import { rangeBlur_mm } from './targets'

/** The least blur that any frame of a series has at one depth. */
export interface DepthBlur {
  /** In the coordinates of the slices: from the near edge, or from the lens (Infinity included). */
  depth_mm: number
  blur_mm: number
  /** 0-based frame that holds it sharpest. */
  frame: number
}

/**
 * Blur through a series at `samples` depths from its first slice to its last, even in mm or, for a range, in
 * dioptres: what the fused picture can have there at best. Above the allowed blur there is a gap.
 */
export function blurThrough(plan: Plan, request: PlanRequest, samples = 400): DepthBlur[] {
  const { frames, magnification, workingFNumber, diffraction_mm } = plan
  const { subject, optics } = request
  let frame = 0
  /** Depths and frames both run away from the camera, so the nearest frame only moves on. */
  const sharpest = (depth_mm: number, blur: (k: number) => number): DepthBlur => {
    while (frame < frames.length - 1 && blur(frame + 1) < blur(frame)) frame++
    return { depth_mm, blur_mm: blur(frame), frame }
  }
  if (subject.kind === 'range' && optics.kind === 'lens') {
    const near = 1 / frames[0].near_mm
    const far = 1 / frames.at(-1)!.far_mm
    return Array.from({ length: samples }, (_, k) => {
      const depth_mm = 1 / (near + (k / (samples - 1)) * (far - near))
      return sharpest(depth_mm, (n) => rangeBlur_mm(request, optics, frames[n].focusDistance_mm!, depth_mm))
    })
  }
  const from = Math.min(0, frames[0].near_mm)
  const to = Math.max(subject.kind === 'depth' ? subject.depth_mm : 0, frames.at(-1)!.far_mm)
  return Array.from({ length: samples }, (_, k) => {
    const depth_mm = from + (k / (samples - 1)) * (to - from)
    return sharpest(depth_mm, (n) => totalBlur_mm(defocusBlur_mm(depth_mm - frames[n].position_mm!, magnification, workingFNumber), diffraction_mm))
  })
}

/**
 * The same series as it comes out when every step is longer than planned, by the part `by` (0.2: a fifth): what the
 * overlap is there for. By distances the steps are stretched in dioptres, towards the far end.
 */
export function withLongSteps(plan: Plan, by: number): Plan {
  const [first] = plan.frames
  const frames = plan.frames.map((frame) => {
    if (frame.position_mm !== undefined) return { ...frame, position_mm: first.position_mm! + (frame.position_mm - first.position_mm!) * (1 + by) }
    const stretched = 1 / first.focusDistance_mm! - (1 / first.focusDistance_mm! - 1 / frame.focusDistance_mm!) * (1 + by)
    return { ...frame, focusDistance_mm: stretched > 0 ? 1 / stretched : Infinity }
  })
  return { ...plan, frames }
}
