import type { Camera, ManualRail } from '@/core/plan'

/** The studio's made-up bodies and lenses. */
export interface Body extends Camera {
  name: string
}

export interface Lens {
  name: string
  focalLength_mm: number
  pupilRatio: number
  widestFNumber: number
  smallestFNumber: number
}

export const BODIES: Body[] = [
  { name: 'Body A, 24 MP full frame', sensorWidth_mm: 36, sensorHeight_mm: 24, pixelsWide: 6000, rawSize_MB: 30 },
  { name: 'Body B, 45 MP full frame', sensorWidth_mm: 36, sensorHeight_mm: 24, pixelsWide: 8200, rawSize_MB: 55 },
  { name: 'Body C, 26 MP, 23.5 mm sensor', sensorWidth_mm: 23.5, sensorHeight_mm: 15.7, pixelsWide: 6240, rawSize_MB: 33 },
]

export const LENSES: Lens[] = [
  { name: 'Macro 100 mm', focalLength_mm: 100, pupilRatio: 1, widestFNumber: 2.8, smallestFNumber: 32 },
  { name: 'Macro 60 mm', focalLength_mm: 60, pupilRatio: 0.9, widestFNumber: 2.8, smallestFNumber: 22 },
  { name: 'Wide 24 mm', focalLength_mm: 24, pupilRatio: 1, widestFNumber: 2, smallestFNumber: 22 },
]

/** Fifty marks to a turn of half a millimetre: a hundredth a mark. */
export const BENCH_RAIL: ManualRail = { pitch_mm: 0.5, marksPerTurn: 50, length_mm: 100 }
