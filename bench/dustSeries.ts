import type { Fault, SeriesRequest } from '@/core/simulate'

/** Series of every kind for looking for dust: the same run number has the same scene and seed in each bench. */
/** How wide the frames are: the third argument of the benches. */
export const WIDTH_px = Number(process.argv[4] ?? 640)
export const HEIGHT_px = 2 * Math.floor(WIDTH_px / 3)
export const SPECKS = 4
/** Where the near edge lies, from the lens, in scenes that reach far away. */
const NEAR_EDGE_mm = 550
const evenly = (from: number, step: number, count: number) => Array.from({ length: count }, (_, k) => from + k * step)
const toFar = (count: number) => evenly(1 / 540, (1 / 20_000 - 1 / 540) / (count - 1), count).map((inverse) => 1 / inverse - NEAR_EDGE_mm)

const close = { focalLength_mm: 100, fNumber: 5.6 }
const SCENES = [
  { ...close, scene: 'fossil', magnification: 1, positions_mm: evenly(-1, 0.85, 14) },
  { ...close, scene: 'nib', magnification: 0.5, positions_mm: evenly(-2, 2.8, 15) },
  { ...close, scene: 'bristles', magnification: 1, positions_mm: evenly(-1, 0.75, 14) },
  { ...close, scene: 'bowl', magnification: 0.5, positions_mm: evenly(-1, 2.2, 12) },
  { scene: 'garden', focalLength_mm: 24, fNumber: 2.8, magnification: 0.025, positions_mm: toFar(9) },
  { scene: 'garden', focalLength_mm: 24, fNumber: 2, magnification: 0.025, positions_mm: toFar(6) },
]

/** The series of a run, with these faults. */
export function dustSeries(run: number, faults: Fault[]): SeriesRequest & { scene: string } {
  const { positions_mm, scene, ...setup } = SCENES[run % SCENES.length]
  return {
    scene,
    seed: 4000 + run,
    camera: { sensorWidth_mm: 36, width_px: WIDTH_px, height_px: HEIGHT_px, ...setup, mover: run % 4 < 2 || scene === 'garden' ? 'ring' : 'rail' },
    positions_mm,
    unsteadiness: { shift_px: 0.7, rotation_deg: 0.03, exposure_ev: 0.02 },
    fullWell: 30_000,
    faults,
  }
}
