import type { CameraSetup, SeriesRequest } from '../simulate'

/** Pictures of the exercises are this large: quickly taken, and large enough to judge. */
export const PICTURE = { width_px: 480, height_px: 320 } as const

const BODY = { sensorWidth_mm: 36, ...PICTURE } as const

/** What is photographed, how large, and how deep it is from its near edge. */
export interface Subject {
  scene: string
  name: string
  magnification: number
  depth_mm: number
}

/** Subjects on the table. */
export const SUBJECTS: readonly Subject[] = [
  { scene: 'fossil', name: 'a coiled shell in its stone', magnification: 1, depth_mm: 9 },
  { scene: 'nib', name: 'the nib of a pen', magnification: 0.5, depth_mm: 34 },
  { scene: 'bristles', name: 'bristles of a brush', magnification: 1, depth_mm: 8 },
]

export function cameraOn({ magnification }: Subject, fNumber: number, mover: CameraSetup['mover']): CameraSetup {
  return { ...BODY, focalLength_mm: 100, fNumber, magnification, mover }
}

/** A request with the unsteadiness and the noise that a good tripod and good light leave. */
export function calmSeries(subject: Subject, seed: number, camera: CameraSetup, positions_mm: number[]): SeriesRequest {
  return {
    scene: subject.scene,
    seed,
    camera,
    positions_mm,
    unsteadiness: { shift_px: 0.4, rotation_deg: 0.02, exposure_ev: 0.015 },
    fullWell: 30_000,
  }
}

/** Planes of focus, evenly from one to another. */
export const evenly = (from_mm: number, to_mm: number, count: number) =>
  Array.from({ length: count }, (_, k) => from_mm + ((to_mm - from_mm) * k) / Math.max(1, count - 1))
