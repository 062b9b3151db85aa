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
  /** Where fine and coarse detail lies, cell by cell. */
  detail: Detail
  /** The picture so coarse that focus hardly matters, for telling whether it is of the same thing. */
  motif: Plane
}

/** Energy of detail in cells of `CELL_px`, as part of the picture's own brightness squared, so that flicker does not count. */
export interface Detail {
  /** Of the finest detail that is not noise, and of detail twice as coarse, which shows far out of focus too. */
  fine: Plane
  coarse: Plane
}

/** Side of a cell in which the energy of detail is kept. */
export const CELL_px = 8

const TOP = 0.985
const BOTTOM = 0.012

/**
 * Measures a frame. The focus measure is the energy between two Gaussian smoothings (σ 1 and about 1.7 px), a
 * band-pass that falls with defocus and passes little noise (compare Pertuz, Puig & Garcia, 2013).
 */
export function frameFacts(picture: Picture): FrameFacts {
  const grey = luma(picture)
  const band = bandOf(grey)
  const [red, green, blue] = picture.planes.map(({ data }) => data)
  const means = picture.planes.map(meanOf) as [number, number, number]
  let clipped = 0
  let black = 0
  // Loops, here and below: a call for each pixel takes several times as long.
  for (let i = 0; i < grey.data.length; i++) {
    if (red[i] > TOP || green[i] > TOP || blue[i] > TOP) clipped++
    if (grey.data[i] < BOTTOM) black++
  }
  return {
    luma: grey,
    means,
    clipped: clipped / grey.data.length,
    black: black / grey.data.length,
    sharpness: tileEnergies(band),
    detail: detailOf(grey, band),
    motif: coarse(grey),
  }
}

/** Detail between two Gaussian smoothings. */
function bandOf(grey: Plane): Plane {
  const once = smooth(grey)
  const { data } = smooth(smooth(once))
  for (let i = 0; i < data.length; i++) data[i] = once.data[i] - data[i]
  return { ...grey, data }
}

function meanOf({ data }: Plane): number {
  let sum = 0
  for (let i = 0; i < data.length; i++) sum += data[i]
  return sum / data.length
}

/** The outermost px see the border, not the subject. */
const BORDER_px = 2

function tileEnergies({ data, width, height }: Plane): Float64Array {
  const sums = new Float64Array(TILES.across * TILES.down)
  const counts = new Float64Array(sums.length)
  const tileOf = Int32Array.from({ length: width }, (_, x) => Math.floor((x * TILES.across) / width))
  for (let y = BORDER_px; y < height - BORDER_px; y++) {
    const row = Math.floor((y * TILES.down) / height) * TILES.across
    for (let x = BORDER_px; x < width - BORDER_px; x++) {
      const value = data[y * width + x]
      sums[row + tileOf[x]] += value * value
      counts[row + tileOf[x]]++
    }
  }
  return sums.map((sum, tile) => sum / Math.max(1, counts[tile]))
}

function detailOf(grey: Plane, band: Plane): Detail {
  const level = Math.max(1e-6, meanOf(grey) ** 2)
  return { fine: cellEnergies(band, CELL_px, level), coarse: cellEnergies(bandOf(reduce(grey)), CELL_px / 2, level) }
}

/** Mean energy of each whole cell, smoothed over its neighbours: a cell alone holds too few samples. */
function cellEnergies({ data, width, height }: Plane, cell_px: number, level: number): Plane {
  const cells = createPlane(Math.max(1, Math.floor(width / cell_px)), Math.max(1, Math.floor(height / cell_px)))
  const share = 1 / (cell_px ** 2 * level)
  const [right, bottom] = [Math.min(width - BORDER_px, cells.width * cell_px), Math.min(height - BORDER_px, cells.height * cell_px)]
  for (let y = BORDER_px; y < bottom; y++) {
    const row = Math.floor(y / cell_px) * cells.width
    for (let x = BORDER_px; x < right; x++) {
      const value = data[y * width + x]
      cells.data[row + Math.floor(x / cell_px)] += value * value * share
    }
  }
  return smooth(cells)
}

/** A picture halved until it is at most 24 px wide: so coarse that focus hardly matters. */
export function coarse(grey: Plane): Plane {
  let plane = grey
  while (plane.width > 24) plane = reduce(plane)
  return plane.width > 0 ? plane : createPlane(1, 1)
}
