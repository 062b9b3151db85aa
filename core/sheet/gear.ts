import { moverKindOf } from './sheetMovers'
import { clickRunsOf, railRunsOf, railStep_mm, type Body, type Kit, type Lens, type Light, type Rail } from '../kit'
import { knownClick, knownRail, type KnownWay } from '../learn'
import { closing_mm, magnificationAt, scaleDistance_mm, sensorDistance_mm } from '../optics'
import type { LensLimits } from '../plan'
import { refusal } from '../words'
import type { PlanSheet } from './sheet'

/** The items of the kit that a sheet names. */
export interface Gear {
  body: Body
  lens: Lens
  light: Light
  /** Absent for a ring, bracketing, or a rail known by its smallest step only. Its screw is as runs tell it, where any does. */
  rail?: Rail
  /** By how much a click of the lens's focus drive changes the magnification, as runs tell it or as the lens is said to have clicks. */
  perClick?: number
  /** What runs tell of the rail or the drive. */
  known?: KnownWay
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
  if (moverKindOf(sheet) === 'rail') return sheet.rail === OTHER_RAIL ? found : { ...found, ...railOf(find(kit.rails, sheet.rail, 'rail'), kit) }
  return sheet.kind === 'depth' && sheet.mover === 'bracketing' ? found : { ...found, ...driveOf(found.lens, kit) }
}

/** A rail as runs tell it: a turn of its screw really goes so far. A ruler is read, not turned. */
function railOf(rail: Rail, kit: Kit): Pick<Gear, 'rail' | 'known'> {
  const known = rail.pitch_mm === undefined ? undefined : knownRail(railRunsOf(kit, rail.name))
  return known ? { rail: { ...rail, pitch_mm: rail.pitch_mm! * known.value }, known } : { rail }
}

function driveOf(lens: Lens, kit: Kit): Pick<Gear, 'perClick' | 'known'> {
  const known = knownClick(clickRunsOf(kit, lens.name), lens.focalLength_mm)
  const perClick = known?.value ?? (lens.driveClicks && lens.mostMagnification / lens.driveClicks)
  return { ...(perClick && { perClick }), ...(known && { known }) }
}

/** A rail that the kit does not have, known by its smallest step. */
export const OTHER_RAIL = 'other'

/**
 * The sheet with its empty names filled from the kit, so that the fields show what is planned with; and with distances measured as
 * the plan is, which those of older sheets were not.
 */
export function withGear(sheet: PlanSheet, kit: Kit): PlanSheet {
  const first = (named: string, shelf: { name: string }[]) => named || (shelf[0]?.name ?? '')
  const lens = first(sheet.lens, kit.lenses)
  return {
    ...sheet,
    ...measuredAlike(
      sheet,
      kit.lenses.find(({ name }) => name === lens),
    ),
    body: first(sheet.body, kit.bodies),
    lens,
    light: first(sheet.light, kit.lights),
    rail: first(sheet.rail, kit.rails) || OTHER_RAIL,
  }
}

function measuredAlike({ targets, distance_mm: distance, distancesFrom, from }: PlanSheet, lens?: Lens): Partial<PlanSheet> {
  if (distancesFrom === 'plan' || !lens) return {}
  const f = lens.focalLength_mm
  const asPlan = (mm: number) => Math.round(from === 'sensor' ? scaleDistance_mm(mm, f) : mm)
  return {
    distancesFrom: 'plan',
    targets: targets.map(({ name, distance_mm }) => ({ name, distance_mm: distance_mm === null ? null : asPlan(distance_mm) })),
    ...(distance !== null && distance > f && { distance_mm: Math.round(sensorDistance_mm(f, magnificationAt(f, distance), closingOf(lens))) }),
  }
}

/** How much nearer or farther than a thin lens this one focuses, as the kit's nearest focus says. */
export function closingOf({ focalLength_mm, nearest_mm, mostMagnification }: Lens): number {
  return closing_mm(focalLength_mm, nearest_mm, mostMagnification)
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
