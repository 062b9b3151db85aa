import { CAPTURES, latticeOf, NEAR_px, type Lattice } from './lattice'
import type { Offset } from './offsets'

/** Files that are captures of one focus position each, the sensor shifted between them. */
export interface CaptureSets extends Lattice {
  /** Single frames that were taken before the first set. */
  before: string[]
  /** The captures of each frame, in the order in which they were taken; of the last there may be fewer. */
  sets: string[][]
}

/** So many sets are looked at, around the middle of the series, where most is in focus. */
const TRIED = 3

type OffsetsOf = (files: string[]) => Promise<Offset[]>

/**
 * Tells whether files, in the order in which they were taken, are sets of captures: whether the sensor stood on a complete lattice for each
 * four, eight, sixteen or thirty-two of them, and on the same one each time. Where they are no whole number of sets, the last one broke
 * off, or single frames were taken before the first. A series of single frames costs three of them.
 * @param offsetsOf how far the sensor stood from where it was at the first of some files.
 */
export async function findSets(files: string[], offsetsOf: OffsetsOf): Promise<CaptureSets | undefined> {
  if (files.length < CAPTURES.at(-1)!) return undefined
  if (!(await wereShifted(files, offsetsOf))) return undefined
  for (const count of CAPTURES) {
    // One set alone, with other files beside it, may be chance.
    if (files.length < 2 * count && files.length !== count) continue
    for (const from of new Set([0, files.length % count])) {
      const lattice = await latticeFrom(files, from, count, offsetsOf)
      if (!lattice) continue
      const sets = Array.from({ length: Math.ceil((files.length - from) / count) }, (_, k) => files.slice(from + k * count, from + (k + 1) * count))
      return { ...lattice, before: files.slice(0, from), sets }
    }
  }
  return undefined
}

/** Whether the sensor alone moved between two files that follow each other; of three in a row two are of one set. */
async function wereShifted(files: string[], offsetsOf: OffsetsOf): Promise<boolean> {
  const middle = Math.floor((files.length - 1) / 2)
  for (const from of [middle, middle - 1]) {
    const [, second] = await offsetsOf(files.slice(from, from + 2))
    if (onHalves(second)) return true
  }
  return false
}

/** The lattice of sets of so many captures that begin after some files, where all those in the middle have the same. */
async function latticeFrom(files: string[], before: number, count: number, offsetsOf: OffsetsOf): Promise<Lattice | undefined> {
  let first: Lattice | undefined
  for (const block of aroundMiddle(Math.floor((files.length - before) / count))) {
    const from = before + block * count
    const offsets = await offsetsOf(files.slice(from, from + count))
    const lattice = offsets.every(onHalves) ? latticeOf(offsets.map(({ x_px, y_px }) => [x_px, y_px])) : undefined
    if (!lattice || (first && JSON.stringify(lattice) !== JSON.stringify(first))) return undefined
    first = lattice
  }
  return first
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
