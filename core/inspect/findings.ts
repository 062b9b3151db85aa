import { blobsOf, type Grid, type Plane, type Rectangle } from '../raster'
import { cellsOf, differenceIn, quantileOf, widened } from './cells'
import type { Finding } from './place'

/** What is known of a series and the picture fused from it, cell by cell. */
export interface Evidence {
  grid: Grid
  /** Energy of fine detail of each frame, and of the picture. */
  detail: Float32Array[]
  fused: Float32Array
  /** Frames and picture a quarter of the size: so coarse that a little blur hardly shows. */
  quarters: Plane[]
  fusedQuarter: Plane
  /** Energy that noise has by itself. */
  noise: number
}

/** A frame's picture of a place may be this much less sharp than the fused one, in parts of what is mended there. */
const LOSS = 0.25

/** It shows nothing whole where it lacks more than this part of the picture's own detail: where a part moved while it was sharpest, others lack half. */
const LACKING = 0.6

/** All noise beside what the finest detail has of it: white noise between smoothings of σ = 1 and 1.7 px keeps a 38th; JPEG leaves less. */
const NOISE_ALL = 20

/** Clusters of marked cells, as rectangles of cells no larger than `most` each way. */
export function clustersOf(marked: Uint8Array, grid: Grid, most: number): Rectangle[] {
  return blobsOf(widened(marked, grid), grid.across, grid.down).flatMap(({ left, top, right, bottom }) => {
    // Those that were marked themselves, without what holds them together.
    const own = shrunk({ x: left, y: top, width: right - left + 1, height: bottom - top + 1 }, marked, grid)
    return own ? split(own, most).flatMap((part) => shrunk(part, marked, grid) ?? []) : []
  })
}

/** The least rectangle that holds the marked cells of another. */
function shrunk(part: Rectangle, marked: Uint8Array, grid: Grid): Rectangle | undefined {
  const inside = cellsOf(part, grid).filter((cell) => marked[cell])
  if (inside.length === 0) return undefined
  const [xs, ys] = [inside.map((cell) => cell % grid.across), inside.map((cell) => Math.floor(cell / grid.across))]
  const [x, y] = [Math.min(...xs), Math.min(...ys)]
  return { x, y, width: Math.max(...xs) - x + 1, height: Math.max(...ys) - y + 1 }
}

function split({ x, y, width, height }: Rectangle, most: number): Rectangle[] {
  const [columns, rows] = [width, height].map((side) => Math.max(1, Math.ceil(side / most)))
  return Array.from({ length: columns * rows }, (_, k) => {
    const [i, j] = [k % columns, Math.floor(k / columns)]
    const [from, to] = [x + Math.round((i * width) / columns), x + Math.round(((i + 1) * width) / columns)]
    const [top, bottom] = [y + Math.round((j * height) / rows), y + Math.round(((j + 1) * height) / rows)]
    return { x: from, y: top, width: to - from, height: bottom - top }
  }).filter((part) => part.width > 0 && part.height > 0)
}

/** The frame with the most detail in some cells, among those that are `allowed`. */
export function sharpestIn(cells: number[], { detail }: Evidence, allowed: (frame: number) => boolean = () => true): number | undefined {
  let best: number | undefined
  let most = 0
  detail.forEach((energies, frame) => {
    const sum = allowed(frame) ? cells.reduce((all, cell) => all + energies[cell], 0) : 0
    if (sum > most) [best, most] = [frame, sum]
  })
  return best
}

/**
 * Whether taking a whole rectangle from one frame mends more than it spoils: what detail the fused picture has there and the frame
 * has not, beside what is mended: `mended`, in the same energies.
 */
export function isSafe(rectangle: Rectangle, frame: number, mended: number, { grid, detail, fused, noise }: Evidence): boolean {
  const cells = cellsOf(rectangle, grid)
  // One frame has the noise that the mean of several has not.
  if (mended < NOISE_ALL * noise * cells.length) return false
  const own = cells.reduce((sum, cell) => sum + Math.max(0, fused[cell] - noise), 0)
  const lost = cells.reduce((sum, cell) => sum + Math.max(0, fused[cell] - noise - 1.1 * detail[frame][cell]), 0)
  return lost < LOSS * mended && lost <= LACKING * own
}

/** How far the picture differs from a frame in each cell, beyond blur: mean squares, a quarter of the size. */
export function differenceFrom(frame: number, { quarters, fusedQuarter, grid }: Evidence): Float32Array {
  return differenceIn(fusedQuarter, quarters[frame], grid)
}

/** What noise has of the finest detail: of the least that any frame shows, the quietest cells. */
export function noiseIn(detail: Float32Array[]): number {
  const least = detail[0].map((_, cell) => detail.reduce((low, energies) => Math.min(low, energies[cell]), Infinity))
  return Math.max(1e-7, quantileOf(least, 0.1))
}

/** The worst of each kind, so many at the most. */
export const worst = (findings: Finding[], most: number): Finding[] => [...findings].sort((a, b) => b.severity - a.severity).slice(0, most)
