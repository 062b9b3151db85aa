import { scaleDistance_mm, sensorDistance_mm } from '../optics'
import { lengthText, type UnitSystem } from '../units'
import { closingOf } from './gear'
import type { PlanSheet } from './sheet'
import type { SheetPlan } from './sheetPlan'

/** Where things stand, from the sensor, as far as the kit's lengths and the lens's nearest focus tell. */
export interface Placement {
  lensFront_mm: number
  /** The subject's near edge, or the nearest point of a range. */
  near_mm: number
  /** Room between the lens, or what is before it, and the near edge; absent where it cannot be told. */
  free_mm?: number
}

/** A figure below this says that the set-up is not what it is reckoned as. */
const LEAST_FREE_mm = 3

/** The near edge never lies inside the lens, however roughly its place is known. */
export function placementOf({ plan, request, gear }: SheetPlan, { reach, extension_mm, baseMagnification, kind }: PlanSheet): Placement {
  const { optics, subject } = request
  const { register_mm } = gear.body
  const added = kind === 'depth' && (reach === 'extension' || reach === 'reversed') ? (extension_mm ?? 0) : 0
  const lensFront_mm = register_mm + gear.lens.length_mm + added
  const standing = (near_mm: number): Placement => {
    const free_mm = near_mm - lensFront_mm
    return free_mm < LEAST_FREE_mm ? { lensFront_mm, near_mm: lensFront_mm + LEAST_FREE_mm } : { lensFront_mm, near_mm, free_mm }
  }
  if (optics.kind === 'objective' || optics.attachment) return standing(lensFront_mm + plan.workingDistance_mm)
  if (subject.kind === 'range') return standing(scaleDistance_mm(plan.workingDistance_mm, optics.focalLength_mm))
  // Turned round, a lens has its principal planes elsewhere, and the kit does not know where.
  if (reach === 'reversed') return standing(-Infinity)
  const magnification = optics.magnification!
  // Behind tubes the lens itself is set to what it was before.
  const own = reach === 'extension' ? (baseMagnification ?? 0) : magnification
  return standing(sensorDistance_mm(optics.focalLength_mm, magnification) + closingOf(gear.lens) * own)
}

/** Where the nearest point lies, as one would measure it; `brief` leaves out what is free before the lens. */
export function nearestText(planned: SheetPlan, sheet: PlanSheet, system: UnitSystem, brief = false): string {
  const { optics, subject } = planned.request
  const { near_mm, free_mm } = placementOf(planned, sheet)
  if (optics.kind === 'objective') return 'at the objective’s own working distance'
  if (subject.kind === 'range') return `${lengthText(sheet.from === 'lens' ? subject.near_mm : near_mm, system)} from the ${sheet.from}`
  if (free_mm === undefined) return brief ? 'not known' : 'not known for this set-up; measure it once it stands'
  if (optics.attachment) return `${lengthText(free_mm, system)} before the attachment`
  if (brief) return `${lengthText(near_mm, system)} from the sensor`
  return `${lengthText(near_mm, system)} from the sensor, about ${lengthText(free_mm, system)} free before the lens`
}
