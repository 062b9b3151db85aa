import type { Plan, PlanRequest } from '@/core/plan'
import { apertureText, durationText, lengthText, storageText } from '../units'

/** The plan in one line: what to do. */
export function verdictOf(plan: Plan, request: PlanRequest): string {
  const { frameCount, stride_mm, duration_s, storage_MB } = plan
  if (oneFrameDoes(plan, request)) return 'One frame is enough'
  const load = `${durationText(duration_s)}, ${storageText(storage_MB)}`
  if (request.subject.kind === 'range') return `${frameCount} frames by the focus ring, ${load}`
  return `${frameCount} frames, ${lengthText(stride_mm)} apart, ${load}`
}

/** The line below it: whether stopping down would save the series, as far as the lens goes. */
export function oneFrameText({ singleFrame }: Plan, smallestFNumber = Infinity): string {
  const { possible, fNumber, reason } = singleFrame
  if (!possible || fNumber === null) return reason
  if (fNumber > smallestFNumber) return `One frame would take ${apertureText(fNumber)}; this lens ends at ${apertureText(smallestFNumber)}.`
  return `One frame at ${apertureText(fNumber)} would hold the whole subject too.`
}

function oneFrameDoes({ frameCount, depthOfField_mm, frames }: Plan, { subject }: PlanRequest): boolean {
  if (frameCount === 1) return true
  return subject.kind === 'depth'
    ? depthOfField_mm >= subject.depth_mm
    : frames.some(({ near_mm, far_mm }) => near_mm <= subject.near_mm && far_mm >= subject.far_mm)
}
