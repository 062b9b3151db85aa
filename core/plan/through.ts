import { defocusBlur_mm, totalBlur_mm } from '../optics'
import type { Plan } from './reply'
import type { PlanRequest } from './request'

/** The least blur that any frame of a series has at one depth. */
export interface DepthBlur {
  depth_mm: number
  blur_mm: number
  /** 0-based frame that holds it sharpest. */
  frame: number
}

/**
 * Blur through a series planned by depth, at `samples` even depths from its first slice to its last: what the fused
 * picture can have there at best. Above the allowed blur there is a gap. Empty for a range, whose depths have no end.
 */
export function blurThrough(plan: Plan, { subject }: PlanRequest, samples = 400): DepthBlur[] {
  if (subject.kind !== 'depth') return []
  const { frames, magnification, workingFNumber, diffraction_mm } = plan
  const from = Math.min(0, frames[0].near_mm)
  const to = Math.max(subject.depth_mm, frames.at(-1)!.far_mm)
  let frame = 0
  return Array.from({ length: samples }, (_, k) => {
    const depth_mm = from + (k / (samples - 1)) * (to - from)
    // Depths and frames both run away from the camera, so the nearest frame only moves on.
    while (frame < frames.length - 1 && Math.abs(frames[frame + 1].position_mm! - depth_mm) < Math.abs(frames[frame].position_mm! - depth_mm)) frame++
    const defocus = defocusBlur_mm(depth_mm - frames[frame].position_mm!, magnification, workingFNumber)
    return { depth_mm, blur_mm: totalBlur_mm(defocus, diffraction_mm), frame }
  })
}
