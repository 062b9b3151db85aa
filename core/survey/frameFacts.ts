import { createPlane, luma, reduce, smooth, type Picture, type Plane } from '../raster'

/** Tiles across and down in which sharpness is measured. */
export const TILES = { across: 18, down: 12 }

/** What the survey keeps of a frame: small enough that hundreds fit in memory. */
export interface FrameFacts {
  /** Luma, at the size the frame was read in. */
  luma: Plane
  /** Mean of each channel, on encoded values. */
  means: [number, number, number]
  /** Part of the samples at the very top and at the very bottom. */
  clipped: number
  black: number
  /** Focus measure of each tile, row by row: mean energy of the finest detail that is not noise. */
  sharpness: Float64Array
  /** The picture so coarse that focus hardly matters, for telling whether it is of the same thing. */
  motif: Plane
}

const TOP = 0.985
const BOTTOM = 0.012

/**
 * Measures a frame. The focus measure is the energy between two Gaussian smoothings (σ 1 and about 1.7 px), a
 * band-pass that falls with defocus and passes little noise (compare Pertuz, Puig & Garcia, 2013).
 */
export function frameFacts(picture: Picture): FrameFacts {
  const grey = luma(picture)
  const means = picture.planes.map(({ data }) => data.reduce((sum, v) => sum + v, 0) / data.length) as [number, number, number]
  let clipped = 0
  let black = 0
  for (let i = 0; i < grey.data.length; i++) {
    if (picture.planes.some(({ data }) => data[i] > TOP)) clipped++
    if (grey.data[i] < BOTTOM) black++
  }
  return {
    luma: grey,
    means,
    clipped: clipped / grey.data.length,
    black: black / grey.data.length,
    sharpness: tileEnergies(grey),
    motif: coarse(grey),
  }
}

function tileEnergies(grey: Plane): Float64Array {
  const once = smooth(grey)
  const twice = smooth(smooth(once))
  const { width, height } = grey
  const sums = new Float64Array(TILES.across * TILES.down)
  const counts = new Float64Array(sums.length)
  for (let y = 2; y < height - 2; y++) {
    const row = Math.floor((y * TILES.down) / height) * TILES.across
    for (let x = 2; x < width - 2; x++) {
      const tile = row + Math.floor((x * TILES.across) / width)
      const i = y * width + x
      sums[tile] += (once.data[i] - twice.data[i]) ** 2
      counts[tile]++
    }
  }
  return sums.map((sum, tile) => sum / Math.max(1, counts[tile]))
}

/** Halved until it is at most 24 px wide. */
/** A picture so coarse that focus hardly matters. */
export function coarse(grey: Plane): Plane {
  let plane = grey
  while (plane.width > 24) plane = reduce(plane)
  return plane.width > 0 ? plane : createPlane(1, 1)
}
