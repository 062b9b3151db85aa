import type { MoverKind } from '../movers'

/** What is asked of a plan. Lengths in mm; `far_mm` may be Infinity (`null` in JSON). */
export interface PlanRequest {
  camera: Camera
  optics: Optics
  sharpness: Sharpness
  /** Count diffraction (default true); false gives the classical figures. */
  diffraction: boolean
  wavelength_nm: number
  subject: DepthSubject | RangeSubject
  mover: Mover
  /** Least overlap of neighbouring slices, as part of a slice, 0 ≤ overlap < 1. */
  overlap: number
  leadIn_slices: number
  runOut_slices: number
  timing: Timing
}

export interface Camera {
  sensorWidth_mm: number
  sensorHeight_mm: number
  pixelsWide: number
  rawSize_MB: number
}

export interface LensOptics {
  kind: 'lens'
  focalLength_mm: number
  fNumber: number
  /** Exit over entrance pupil diameter; 1 where unknown. */
  pupilRatio: number
  /** Image over object in the plane of focus; absent for a range subject. */
  magnification?: number
  /** The magnification comes from a lens in front of this one set to infinity, so no light is lost to extension. */
  attachment?: boolean
  /** Breathing as measured, in times that of a thin lens; 1 where absent. */
  breathing?: number
}

export interface ObjectiveOptics {
  kind: 'objective'
  designMagnification: number
  designTube_mm: number
  tube_mm: number
  numericalAperture: number
}

export type Optics = LensOptics | ObjectiveOptics

export type Sharpness =
  { kind: 'coc'; coc_mm: number } | { kind: 'pixels'; count: number } | { kind: 'print'; width_mm: number; viewingDistance_mm: number }

export interface DepthSubject {
  kind: 'depth'
  depth_mm: number
}

export interface RangeSubject {
  kind: 'range'
  near_mm: number
  far_mm: number
  /** Where the distances are measured from: the lens's front principal plane, or the sensor plane. */
  from: 'lens' | 'sensor'
}

/** A ring has a resolution where it moves by whole steps of a drive. */
export type Mover = { [Kind in MoverKind]: { kind: Kind } & MoverSettings[Kind] }[MoverKind]

interface MoverSettings {
  rail: { resolution_mm: number }
  ring: { resolution_mm?: number }
}

/** Seconds spent per frame. */
export interface Timing {
  /** Moving the focus, by hand or by a drive, and taking a filter off and putting it on again. */
  move_s: number
  filter_s: number
  /** Coming to rest. */
  settle_s: number
  /** Mirror delay or self-timer. */
  delay_s: number
  exposure_s: number
  /** Captures that make up one frame: more than 1 where the sensor is shifted between them. */
  exposuresPerFrame: number
  /** Pause that is kept in any case, and what the flash needs for each exposure; the longer one counts. */
  interval_s: number
  recycling_s: number
  write_s: number
}

export const NO_TIMING: Timing = {
  move_s: 0,
  filter_s: 0,
  settle_s: 0,
  delay_s: 0,
  exposure_s: 0,
  exposuresPerFrame: 1,
  interval_s: 0,
  recycling_s: 0,
  write_s: 0,
}

/** Seconds that one frame takes: move + filter + settle + delay + exposures + max(interval, recycling) + write. */
export function frameTime_s(timing: Timing): number {
  const { move_s, filter_s, settle_s, delay_s, exposure_s, exposuresPerFrame, interval_s, recycling_s, write_s } = timing
  const hands_s = move_s + filter_s + settle_s
  return hands_s + delay_s + exposure_s * exposuresPerFrame + Math.max(interval_s, recycling_s * exposuresPerFrame) + write_s
}
