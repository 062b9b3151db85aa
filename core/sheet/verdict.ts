import type { Plan, PlanRequest } from '../plan'
import { apertureText, durationText, lengthText, storageText, type UnitSystem } from '../units'

/** A plan in two lines: what to do, and what else is worth knowing before doing it. */
export interface Verdict {
  headline: string
  rest: string
  /** A marked aperture of this lens at which one frame would do, where it is not the one set. */
  oneFrameAt?: number
}

/**
 * The verdict first: one frame where one is enough, at an aperture that the lens has and diffraction does not spoil;
 * else the series.
 */
export function verdictOf(
  plan: Plan,
  request: PlanRequest,
  limits?: { smallestFNumber: number; widestFNumber: number },
  system?: UnitSystem,
): Verdict {
  const { singleFrame } = plan
  const { optics } = request
  if (oneFrameDoes(plan, request)) {
    const at = optics.kind === 'lens' ? ` at ${apertureText(optics.fNumber)}` : ''
    return { headline: `One frame${at} is enough`, rest: 'You do not need a series. Focus a third of the way into the subject.' }
  }
  const series = seriesText(plan, request, system)
  const { fNumber } = singleFrame
  if (fNumber === null || optics.kind !== 'lens') return { headline: series, rest: singleFrame.reason }
  if (fNumber > (limits?.smallestFNumber ?? Infinity)) {
    return {
      headline: series,
      rest: `One frame would take ${apertureText(fNumber)}; this lens only goes to ${apertureText(limits!.smallestFNumber)}.`,
    }
  }
  const at = Math.max(fNumber, limits?.widestFNumber ?? 0)
  return { headline: `One frame at ${apertureText(at)} is enough`, rest: `At ${apertureText(optics.fNumber)}, as set: ${series}.`, oneFrameAt: at }
}

/** `21 frames, 0.62 mm apart, 3 min 10 s, 945 MB` */
export function seriesText({ frameCount, stride_mm, duration_s, storage_MB }: Plan, { subject }: PlanRequest, system?: UnitSystem): string {
  if (frameCount === 1) return 'one frame'
  const load = `${durationText(duration_s)}, ${storageText(storage_MB)}`
  if (subject.kind === 'range') return `${frameCount} frames by the focus ring, ${load}`
  return `${frameCount} frames, ${lengthText(stride_mm, system)} apart, ${load}`
}

function oneFrameDoes({ frameCount, depthOfField_mm, frames, coc_mm, diffraction_mm }: Plan, { subject }: PlanRequest): boolean {
  if (diffraction_mm >= coc_mm) return false
  if (frameCount === 1) return true
  return subject.kind === 'depth'
    ? depthOfField_mm >= subject.depth_mm
    : frames.some(({ near_mm, far_mm }) => near_mm <= subject.near_mm && far_mm >= subject.far_mm)
}
