import { completePlanRequest, type PlanRequest } from '@/core/plan'
import { NEW_SHEET, planSheet, type PlanSheet } from '@/core/sheet'
import type { ShootRequest } from '@/schemas'
import { STARTER_KIT } from '@/core/kit'

/** What a two-person studio has on its list in a small regional museum. */
export interface DemoShoot extends ShootRequest {
  plan: PlanRequest
  /** How far the demo takes it: only planned, or shot and fused as well. */
  done: boolean
}

const common: PlanSheet = {
  ...NEW_SHEET,
  body: 'Body A, 24 MP full frame',
  lens: 'Macro 100 mm',
  light: 'Two lamps',
  rail: 'Bench rail',
  fNumber: 8,
  blur_pixels: 4,
  overlap_percent: 20,
}

export const SEED = shoot('Winged seed, tray 4', 'Seed with its wing, about twice life size on tubes, standing on a pin', 'bristles', false, {
  lens: 'Macro 60 mm',
  light: 'Studio flash',
  fNumber: 5.6,
  reach: 'extension',
  baseMagnification: 1,
  extension_mm: 56,
  depth_mm: 4,
  width_mm: 11,
  mover: 'rail',
  rail: 'Motor rail',
  testExposure_s: 0.008,
  gravity: 'down',
  direction: 'far',
})

export const GARDEN = shoot(
  'Terrace garden with the stone trough',
  'Behind the house: the trough at arm’s length, three walls, the gate, the hill',
  'garden',
  false,
  {
    kind: 'range',
    lens: 'Wide 24 mm',
    light: 'Daylight',
    near_mm: 550,
    far_mm: null,
    from: 'sensor',
    leadIn_slices: 0,
    runOut_slices: 0,
    targets: [
      { name: 'trough', distance_mm: 650 },
      { name: 'second wall', distance_mm: 2400 },
      { name: 'gate', distance_mm: 9000 },
      { name: 'hill', distance_mm: null },
    ],
    testExposure_s: 1 / 13,
    filter_stops: 6,
    direction: 'far',
    surroundings: ['water', 'protected'],
  },
)

export const NIB = shoot('Fountain-pen nib, writing sample 12', 'Gold nib on the letter it wrote, half life size, by the focus drive', 'nib', false, {
  magnification: 0.5,
  depth_mm: 34,
  width_mm: 60,
  leadIn_slices: 0.5,
  runOut_slices: 0.5,
  mover: 'ring',
  background_mm: 60,
})

export const FOSSIL = shoot(
  'Ribbed coil fossil, drawer C 17',
  'Coiled shell in limestone at life size, with the preparator’s brush',
  'fossil',
  true,
  {
    depth_mm: 9,
    width_mm: 32,
    leadIn_slices: 0.5,
    runOut_slices: 0.5,
  },
)

/** Oldest first; the list of shoots shows the newest first. */
export const DEMO_SHOOTS: DemoShoot[] = [SEED, GARDEN, NIB, FOSSIL]

/** A shoot of the scenario by what is different in its plan. */
export function shoot(title: string, subject: string, scene: string, done: boolean, change: Partial<PlanSheet>): DemoShoot {
  const sheet = { ...common, ...change }
  return { title, subject, scene, plan: planSheet(sheet, STARTER_KIT, completePlanRequest).request, sheet, done }
}
