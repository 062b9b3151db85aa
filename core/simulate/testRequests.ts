import type { SeriesRequest } from '.'

/** A small still series of bristles by ring, changed as a test needs it. */
export function closeUp(more: Partial<SeriesRequest> = {}, camera: Partial<SeriesRequest['camera']> = {}): SeriesRequest {
  return {
    scene: 'bristles',
    seed: 2,
    camera: { sensorWidth_mm: 36, width_px: 240, height_px: 160, focalLength_mm: 100, fNumber: 5.6, magnification: 1, mover: 'ring', ...camera },
    positions_mm: [0, 3, 6],
    unsteadiness: { shift_px: 0, rotation_deg: 0, exposure_ev: 0 },
    fullWell: 30_000,
    ...more,
  }
}
