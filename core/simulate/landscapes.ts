import type { SeriesRequest } from './series'
import { NEAR_mm } from './scenes/upright'

/** A landscape as it is shot: so many frames, slices alike in dioptres, from a near point to the farthest thing. */
export interface LandscapeRequest {
  scene: 'garden' | 'meadow'
  seed: number
  frames: number
  /** Nearest plane of focus, mm from the lens. */
  near_mm: number
  fNumber: number
  /** How strongly the scene's wind blows; 0 nothing moves. */
  wind: number
  /** How far the camera is pushed aside between frames. */
  aside_mm: number
  width_px: number
}

const FARTHEST_mm = 60_000
const FOCAL_LENGTH_mm = 24

/** What the simulator is asked for to shoot a landscape. */
export function landscape({ scene, seed, frames, near_mm, fNumber, wind, aside_mm, width_px }: LandscapeRequest): SeriesRequest {
  const [near, far] = [1 / near_mm, 1 / FARTHEST_mm]
  const positions_mm = Array.from({ length: frames }, (_, k) => 1 / (near + (k / (frames - 1)) * (far - near)) - NEAR_mm)
  const middle = NEAR_mm + positions_mm[Math.ceil(frames / 2) - 1]
  return {
    scene,
    seed,
    camera: {
      sensorWidth_mm: 36,
      width_px,
      height_px: Math.round((width_px * 2) / 3),
      focalLength_mm: FOCAL_LENGTH_mm,
      fNumber,
      magnification: FOCAL_LENGTH_mm / (middle - FOCAL_LENGTH_mm),
      mover: 'ring',
    },
    positions_mm,
    unsteadiness: { shift_px: 0.6, rotation_deg: 0.03, exposure_ev: 0.03 },
    fullWell: 30_000,
    wind,
    aside_mm,
  }
}
