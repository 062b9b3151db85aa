import { fromSensor_mm } from '@/core/optics'
import type { Plan, PlanRequest } from '@/core/plan'
import type { UnitSystem } from '@/core/units'
import { dioptreScale, evenScale, type AxisScale } from './scale'

/** Room at both ends of the ribbon for labels, in px. */
export const INSET = 18

/** Both ends of the subject in the coordinates of the slices: from the near edge, or from the lens. */
export function subjectEnds({ subject, optics }: PlanRequest): { near: number; far: number } {
  if (subject.kind === 'depth') return { near: 0, far: subject.depth_mm }
  if (subject.from === 'lens' || optics.kind !== 'lens') return { near: subject.near_mm, far: subject.far_mm }
  return { near: fromSensor_mm(subject.near_mm, optics.focalLength_mm), far: fromSensor_mm(subject.far_mm, optics.focalLength_mm) }
}

/** The ribbon's scale over `width` px: even in mm, or in dioptres where the plan is by distances. */
export function axisOf({ frames }: Plan, request: PlanRequest, width: number, system: UnitSystem): AxisScale {
  const subject = subjectEnds(request)
  const near = Math.min(subject.near, frames[0].near_mm)
  const far = Math.max(subject.far, frames.at(-1)!.far_mm)
  const { subject: asked, optics } = request
  if (asked.kind === 'range') {
    // Labelled as the plan is measured: the sensor stands some centimetres behind the lens.
    const ofLabel = asked.from === 'sensor' && optics.kind === 'lens' ? (mm: number) => fromSensor_mm(mm, optics.focalLength_mm) : undefined
    return dioptreScale(near, far, width, system, ofLabel)
  }
  const margin = (far - near) * 0.02
  return evenScale(near - margin, far + margin, width, system)
}
