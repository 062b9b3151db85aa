import { NO_TIMING, type PlanRequest } from './request'

/** Two requests that tests vary: a macro on a rail, and a landscape from half a metre to infinity. */
export const macro: PlanRequest = {
  camera: { sensorWidth_mm: 36, sensorHeight_mm: 24, pixelsWide: 6000, rawSize_MB: 45 },
  optics: { kind: 'lens', focalLength_mm: 100, fNumber: 8, pupilRatio: 1, magnification: 1 },
  sharpness: { kind: 'coc', coc_mm: 0.03 },
  diffraction: true,
  wavelength_nm: 550,
  subject: { kind: 'depth', depth_mm: 12 },
  mover: { kind: 'rail', resolution_mm: 0.01 },
  overlap: 0.3,
  leadIn_slices: 1,
  runOut_slices: 1,
  timing: NO_TIMING,
}

export const landscape: PlanRequest = {
  ...macro,
  optics: { kind: 'lens', focalLength_mm: 24, fNumber: 8, pupilRatio: 1 },
  subject: { kind: 'range', near_mm: 500, far_mm: Infinity, from: 'lens' },
  mover: { kind: 'ring' },
  leadIn_slices: 0,
  runOut_slices: 0,
}
