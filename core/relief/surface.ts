import { pixelAt, type PixelSize } from './perspective'

/** What is known of a depth map: what its ends stand for, where the frames were focused, and how large a pixel is. */
export interface SurfaceFacts {
  unit: 'mm' | 'frames'
  at0: number
  at65535: number
  /** Where each frame was focused, in `unit`, in focus order. */
  slices: number[]
  pixelSize?: PixelSize
}

/** The depth of a picture as a surface to turn and to measure. */
export interface Surface extends SurfaceFacts {
  /** Of the map; the picture has `times` as many pixels across. */
  width: number
  height: number
  times: number
  /** In `unit`, away from the camera. */
  depth: Float32Array
  /** 0 … 1. */
  confidence: Float32Array
}

interface Map {
  width: number
  height: number
  /** 0 … 65535. */
  data: Uint16Array
}

/** A surface from maps as the engine writes them, thinned or whole; where nothing is known of the confidence all counts as sure. */
export function surfaceOf(depth: Map, confidence: Map | undefined, facts: SurfaceFacts, pictureWidth_px: number): Surface {
  const { width, height } = depth
  const { at0, at65535 } = facts
  const fits = confidence?.width === width && confidence.height === height
  return {
    ...facts,
    width,
    height,
    times: pictureWidth_px / width,
    depth: Float32Array.from(depth.data, (value) => at0 + (value / 65535) * (at65535 - at0)),
    confidence: fits ? Float32Array.from(confidence.data, (value) => value / 65535) : new Float32Array(width * height).fill(1),
  }
}

/** So much of the picture's width rises a relief whose depth is not known in mm. */
export const USUAL_rise = 1 / 3

/** Px of the picture that one unit of depth is high, true to scale where that is known. */
export function reliefRise({ unit, at0, at65535, slices, pixelSize, width, times }: Surface): number {
  if (unit === 'mm' && pixelSize) return 1 / pixelAt(pixelSize, slices[slices.length >> 1] ?? (at0 + at65535) / 2)
  return (USUAL_rise * width * times) / Math.max(1e-9, Math.abs(at65535 - at0))
}
