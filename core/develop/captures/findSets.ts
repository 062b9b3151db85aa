import { CAPTURES, latticeOf, NEAR_px, type Lattice } from './lattice'
import type { Offset } from './offsets'

/** Files that are captures of one focus position each, the sensor shifted between them. */
export interface CaptureSets extends Lattice {
  /** The captures of each frame, in the order in which they were taken; of the last there may be fewer. */
  sets: string[][]
}

/** So many sets are looked at, around the middle of the series, where most is in focus. */
const TRIED = 3

/**
 * Tells whether files, in the order in which they were taken, are sets of captures: whether the sensor stood on a complete lattice for each
 * four, eight, sixteen or thirty-two of them, and on the same one each time. A series of single frames costs two of them.
 * @param offsetsOf how far the sensor stood from where it was at the first of some files.
 */
export async function findSets(files: string[], offsetsOf: (files: string[]) => Promise<Offset[]>): Promise<CaptureSets | undefined> {
  const fours = Math.floor(files.length / CAPTURES.at(-1)!)
  if (fours === 0) return undefined
  const middle = CAPTURES.at(-1)! * Math.floor(fours / 2)
  const [, second] = await offsetsOf(files.slice(middle, middle + 2))
  if (!onHalves(second)) return undefined
  for (const count of CAPTURES) {
    const blocks = Math.floor(files.length / count)
    // One set alone, with other files beside it, may be chance.
    if (blocks === 0 || (blocks === 1 && files.length > count)) continue
    const lattices: (Lattice | undefined)[] = []
    for (const block of aroundMiddle(blocks)) {
      const offsets = await offsetsOf(files.slice(block * count, (block + 1) * count))
      lattices.push(offsets.every(onHalves) ? latticeOf(offsets.map(({ x_px, y_px }) => [x_px, y_px])) : undefined)
      if (!lattices.at(-1)) break
    }
    const [first] = lattices
    if (!first || lattices.some((other) => JSON.stringify(other) !== JSON.stringify(first))) continue
    return { ...first, sets: Array.from({ length: Math.ceil(files.length / count) }, (_, k) => files.slice(k * count, (k + 1) * count)) }
  }
  return undefined
}

function aroundMiddle(count: number): number[] {
  const first = Math.max(0, Math.floor((count - TRIED) / 2))
  return Array.from({ length: Math.min(TRIED, count) }, (_, k) => first + k)
}

/** Whether only the sensor moved, by half pixels. */
function onHalves({ x_px, y_px, otherwise_px }: Offset): boolean {
  const off = (value: number) => Math.abs(2 * value - Math.round(2 * value)) / 2
  return otherwise_px <= NEAR_px && Math.hypot(off(x_px), off(y_px)) <= NEAR_px && Math.hypot(x_px, y_px) <= FARTHEST_px
}

/** A sensor that is shifted by parts of a pixel goes no farther. */
const FARTHEST_px = 4
