import type { SheetMover } from './sheetMovers'
import { fromSensor_mm } from '../optics'
import type { Surrounding, Target } from '../plan'

/** What stands in a field: null where it is empty, NaN where it holds something that is no number. */
export type MaybeNumber = number | null

export type ReachKind = 'lens' | 'extension' | 'closeUp' | 'reversed' | 'faceToFace' | 'objective' | 'ruler' | 'distance'

export interface SheetTarget {
  name: string
  /** null: the horizon. */
  distance_mm: MaybeNumber
}

/** What a photographer fills in for a plan, in the order in which it is thought of. Kit is named, not copied. */
export interface PlanSheet {
  kind: 'depth' | 'range'
  depth_mm: MaybeNumber
  /** The subject's width, for the trade between depth and size. */
  width_mm: MaybeNumber
  /** A background in the picture, behind the subject's near edge. */
  background_mm: MaybeNumber
  near_mm: MaybeNumber
  /** null: infinity. */
  far_mm: MaybeNumber
  from: 'lens' | 'sensor'
  targets: SheetTarget[]
  /** Where targets and `distance_mm` are measured from: as the plan is, or from the lens as in older sheets. */
  distancesFrom: 'plan' | 'lens'

  body: string
  lens: string
  fNumber: MaybeNumber
  light: string
  sensorShift: boolean

  reach: ReachKind
  magnification: MaybeNumber
  /** Tubes or bellows: the lens by itself is set to this, 0 for infinity. */
  baseMagnification: MaybeNumber
  extension_mm: MaybeNumber
  closeUpFocalLength_mm: MaybeNumber
  frontFocalLength_mm: MaybeNumber
  frontFNumber: MaybeNumber
  designMagnification: MaybeNumber
  designTube_mm: MaybeNumber
  tube_mm: MaybeNumber
  numericalAperture: MaybeNumber
  acrossFrame_mm: MaybeNumber
  /** From the sensor to the near edge. */
  distance_mm: MaybeNumber

  criterion: 'pixels' | 'coc' | 'print'
  blur_pixels: MaybeNumber
  coc_mm: MaybeNumber
  printWidth_mm: MaybeNumber
  viewingDistance_mm: MaybeNumber
  diffraction: boolean
  wavelength_nm: MaybeNumber
  overlap_percent: MaybeNumber
  leadIn_slices: MaybeNumber
  runOut_slices: MaybeNumber

  mover: SheetMover
  /** Name of a rail of the kit; empty for one that is known by its smallest step only. */
  rail: string
  resolution_mm: MaybeNumber
  /** What the rail's ruler or scale reads at its zero, so that positions can be read off it. */
  railStart_mm: MaybeNumber
  gravity: 'level' | 'down' | 'up'
  direction: 'near' | 'far'

  testExposure_s: MaybeNumber
  filter_stops: MaybeNumber
  polariser_stops: MaybeNumber
  handMetered: boolean
  headroom_stops: MaybeNumber
  /** null: as long as this mover usually takes. */
  move_s: MaybeNumber
  /** Filter off and on again, at each frame; null: as long as it usually takes. */
  filter_s: MaybeNumber
  settle_s: MaybeNumber
  delay_s: MaybeNumber
  interval_s: MaybeNumber

  surroundings: Surrounding[]
}

/** A sheet for a macro on a rail, to begin with; body, lens, light and rail are the kit's first ones where left empty. */
export const NEW_SHEET: PlanSheet = {
  kind: 'depth',
  depth_mm: 9,
  width_mm: 30,
  background_mm: null,
  near_mm: 550,
  far_mm: null,
  from: 'sensor',
  targets: [],
  distancesFrom: 'plan',
  body: '',
  lens: '',
  fNumber: 5.6,
  light: '',
  sensorShift: false,
  reach: 'lens',
  magnification: 1,
  baseMagnification: 0,
  extension_mm: 36,
  closeUpFocalLength_mm: 200,
  frontFocalLength_mm: 50,
  frontFNumber: 2.8,
  designMagnification: 5,
  designTube_mm: 200,
  tube_mm: 200,
  numericalAperture: 0.14,
  acrossFrame_mm: 36,
  distance_mm: 600,
  criterion: 'pixels',
  blur_pixels: 3,
  coc_mm: 0.03,
  printWidth_mm: 600,
  viewingDistance_mm: 500,
  diffraction: true,
  wavelength_nm: 550,
  overlap_percent: 30,
  leadIn_slices: 1,
  runOut_slices: 1,
  mover: 'rail',
  rail: '',
  resolution_mm: 0.01,
  railStart_mm: 0,
  gravity: 'level',
  direction: 'near',
  testExposure_s: 0.125,
  filter_stops: 0,
  polariser_stops: 0,
  handMetered: false,
  headroom_stops: 0,
  move_s: null,
  filter_s: null,
  settle_s: null,
  delay_s: 0,
  interval_s: 0,
  surroundings: [],
}

/**
 * The targets of a sheet that have a name, from the lens; an empty distance is the horizon. They are measured as the plan is, so that
 * those from the sensor lose the way to the lens.
 */
export function targetsOf({ targets, distancesFrom, from }: PlanSheet, focalLength_mm: number): Target[] {
  const fromLens = (mm: number) => (from === 'sensor' && distancesFrom === 'plan' ? fromSensor_mm(mm, focalLength_mm) : mm)
  return targets
    .filter(({ name, distance_mm }) => name.trim() && !Number.isNaN(distance_mm))
    .map(({ name, distance_mm }) => ({ name: name.trim(), distance_mm: distance_mm === null ? Infinity : fromLens(distance_mm) }))
    .filter(({ distance_mm }) => distance_mm > 0)
}
