import type { Kit } from '../kit'
import type { PlanSheet } from './sheet'

/** A landscape is stopped down to here where the lens can. */
const LANDSCAPE_FNUMBER = 8

/**
 * What a plan by distances usually wants, for a sheet that was made for a subject close up: the widest lens, daylight, a print to judge
 * by, the ring, far end first. A sheet for a subject close up comes with `NEW_SHEET`.
 */
export function landscapeSheet(kit: Kit): Partial<PlanSheet> {
  const lens = kit.lenses.reduce((widest, next) => (next.focalLength_mm < widest.focalLength_mm ? next : widest), kit.lenses[0])
  const light = kit.lights.find(({ kind }) => kind === 'daylight')
  return {
    ...(lens && { lens: lens.name, fNumber: Math.min(lens.smallestFNumber, Math.max(lens.widestFNumber, LANDSCAPE_FNUMBER)) }),
    ...(light && { light: light.name }),
    mover: 'ring',
    criterion: 'print',
    overlap_percent: 20,
    leadIn_slices: 0,
    runOut_slices: 0,
    gravity: 'level',
    direction: 'far',
  }
}
