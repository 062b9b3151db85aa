import { moverKindOf } from './sheetMovers'
import { railStep_mm, type Body, type Kit, type Lens, type Light, type Rail } from '../kit'
import type { LensLimits } from '../plan'
import { refusal } from '../words'
import type { PlanSheet } from './sheet'

/** The items of the kit that a sheet names. */
export interface Gear {
  body: Body
  lens: Lens
  light: Light
  /** Absent for a ring, bracketing, or a rail known by its smallest step only. */
  rail?: Rail
}

/**
 * Finds what the sheet names; an empty name is the first of its shelf.
 * @throws Refusal at the field whose item the kit has no more.
 */
export function gearOf(sheet: PlanSheet, kit: Kit): Gear {
  const found = {
    body: find(kit.bodies, sheet.body, 'body'),
    lens: find(kit.lenses, sheet.lens, 'lens'),
    light: find(kit.lights, sheet.light, 'light'),
  }
  const onRail = moverKindOf(sheet) === 'rail' && sheet.rail !== OTHER_RAIL
  return onRail ? { ...found, rail: find(kit.rails, sheet.rail, 'rail') } : found
}

/** A rail that the kit does not have, known by its smallest step. */
export const OTHER_RAIL = 'other'

/** The sheet with its empty names filled from the kit, so that the fields show what is planned with. */
export function withGear(sheet: PlanSheet, kit: Kit): PlanSheet {
  const first = (named: string, shelf: { name: string }[]) => named || (shelf[0]?.name ?? '')
  return {
    ...sheet,
    body: first(sheet.body, kit.bodies),
    lens: first(sheet.lens, kit.lenses),
    light: first(sheet.light, kit.lights),
    rail: first(sheet.rail, kit.rails) || OTHER_RAIL,
  }
}

export function limitsOf({ name, widestFNumber, smallestFNumber, nearest_mm, mostMagnification }: Lens): LensLimits {
  return { name, widestFNumber, smallestFNumber, nearest_mm, mostMagnification }
}

/** The smallest step that the sheet's rail can do, in mm. */
export function railStepOf(sheet: PlanSheet, { rail }: Gear): number {
  return rail ? railStep_mm(rail) : (sheet.resolution_mm ?? NaN)
}

function find<T extends { name: string }>(shelf: T[], name: string, field: string): T {
  const found = name === '' ? shelf[0] : shelf.find((item) => item.name === name)
  if (found) return found
  throw name === '' ? refusal('plan.noGear', { what: field }, field) : refusal('plan.gearGone', { what: field, name }, field)
}
