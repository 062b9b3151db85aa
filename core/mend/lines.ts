import type { Depths } from './mender'

/** Points of a line, evenly over the width: so many can be dragged without effort. */
const POINTS = 7
/** Columns that each point listens to, as a part of the width. */
const HEARS = 0.04

/**
 * Lines up to which the frames of a composed picture are shown, from the bottom upwards: for each depth, 0 … 1, the height at which
 * what lies below is nearer and what lies above is farther, as far as the picture allows. Each runs from left to right, in px.
 */
export function linesByDepth(depths: Depths, cuts: number[]): [number, number][][] {
  const { width, height } = depths
  return cuts.map((cut) =>
    Array.from({ length: POINTS }, (_, k): [number, number] => {
      const x = Math.round((k * (width - 1)) / (POINTS - 1))
      const reach = Math.round((HEARS * width) / 2)
      const columns: number[] = []
      for (let u = Math.max(0, x - reach); u <= Math.min(width - 1, x + reach); u += Math.max(1, reach >> 3)) columns.push(u)
      return [x, Math.min(height - 1, bestRow(depths, columns, cut))]
    }),
  )
}

/** The row from which on downwards the least is on the wrong side. */
function bestRow({ data, width, height, most }: Depths, columns: number[], cut: number): number {
  const step = Math.max(1, height >> 9)
  const nearer = (y: number) => columns.reduce((sum, x) => sum + Number(data[y * width + x] / most < cut), 0)
  // All below the line: whatever is farther is wrong.
  let wrong = 0
  for (let y = 0; y < height; y += step) wrong += columns.length - nearer(y)
  let [best, least] = [0, wrong]
  for (let y = 0; y < height; y += step) {
    // This row is now above it.
    const count = nearer(y)
    wrong += count - (columns.length - count)
    if (wrong < least) [best, least] = [y + step, wrong]
  }
  return best
}
