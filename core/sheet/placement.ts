import { scaleDistance_mm } from '../optics'
import { effectiveFocalLength_mm, freeDistance_mm } from '../plan'
import { lengthText, type UnitSystem } from '../units'
import type { PlanSheet } from './sheet'
import type { SheetPlan } from './sheetPlan'

/** Where things stand, from the sensor, as far as thin lenses and the kit's own lengths tell. */
export interface Placement {
  lensFront_mm: number
  /** The subject's near edge, or the nearest point of a range. */
  near_mm: number
  /** Room between the lens, or what is before it, and the near edge. */
  free_mm: number
}

/** The near edge never lies inside the lens, however roughly its place is known. */
export function placementOf({ plan, request, gear }: SheetPlan, { reach, extension_mm, kind }: PlanSheet): Placement {
  const { optics, subject } = request
  const { register_mm } = gear.body
  const added = kind === 'depth' && (reach === 'extension' || reach === 'reversed') ? (extension_mm ?? 0) : 0
  const lensFront_mm = register_mm + gear.lens.length_mm + added
  if (optics.kind === 'objective' || optics.attachment) {
    return { lensFront_mm, near_mm: lensFront_mm + plan.workingDistance_mm, free_mm: plan.workingDistance_mm }
  }
  if (subject.kind === 'range') {
    const near_mm = scaleDistance_mm(plan.workingDistance_mm, optics.focalLength_mm)
    return { lensFront_mm, near_mm, free_mm: Math.max(0, near_mm - lensFront_mm) }
  }
  const thin_mm = scaleDistance_mm(plan.workingDistance_mm, effectiveFocalLength_mm(optics, optics.magnification!))
  const free_mm = Math.max(3, freeDistance_mm(thin_mm, register_mm, gear.lens.length_mm, added))
  return { lensFront_mm, near_mm: lensFront_mm + free_mm, free_mm }
}

/** Where the nearest point lies, as one would measure it. */
export function nearestText(planned: SheetPlan, sheet: PlanSheet, system: UnitSystem): string {
  const { optics, subject } = planned.request
  const { near_mm, free_mm } = placementOf(planned, sheet)
  if (optics.kind === 'objective') return 'at the objective’s own working distance'
  if (optics.attachment) return `${lengthText(free_mm, system)} before the attachment`
  const fromSensor = `${lengthText(near_mm, system)} from the sensor`
  return subject.kind === 'range' ? fromSensor : `${fromSensor}, about ${lengthText(free_mm, system)} free before the lens`
}
