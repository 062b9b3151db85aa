import type { Similarity } from '../../raster'
import { POINT } from '../../raster/kernels'
import { quantile } from '../../statistics'
import type { Level, Prepared } from '../prepare'
import { brightness, sampledBy } from './samples'
import { netOf } from './net'

/** The level that is looked at: one coarser than the finest, so that a part may have moved by some px and still be seen to. */
const LEVEL = 1
/** Cells with fewer points say nothing. */
const LEAST_POINTS = 12
/** So many px of that level a cell's content lies beside where the whole picture's motion puts it, at the least; blur alone makes less. */
const MOVED_px = 0.5
/**
 * And it differs so many times as much as in the cells that differ least: what is smooth or far out of focus shows noise alone, which seems to
 * lie anywhere.
 */
const ABOVE_NOISE = 2.2
const QUIETEST = 0.2
/** From this share of a picture on, parts of it moved. */
export const STIRRED = 0.02
/** What holds back a direction that a cell shows no edges across. */
const HELD = 0.05

/**
 * The share, 0 … 1, of the cells with something to see in them whose content moved on its own between two frames, when `motion`
 * leads from `from` to `to`: one step of Lucas & Kanade's (1981) in each cell by itself. In series where all stands still it
 * stays below 0.01 between neighbours; frames farther apart differ too much in blur to be asked.
 */
export function stirredShare(from: Prepared, to: Prepared, motion: Similarity, fullWidth_px: number): number {
  const level = from.levels[Math.min(LEVEL, from.levels.length - 1)]
  const other = to.levels[Math.min(LEVEL, to.levels.length - 1)]
  const factor = level.width / fullWidth_px
  const scaled = { ...motion, dx_px: motion.dx_px * factor, dy_px: motion.dy_px * factor }
  const samples = sampledBy(level.points, other, scaled)
  const cells = gatherCells(level, samples)
  const differing: number[] = []
  const moved: number[] = []
  for (let s = 0; s < cells.length; s += SUMS) {
    const [xx, xy, yy, ex, ey, ee, count] = cells.subarray(s, s + SUMS)
    if (count < LEAST_POINTS) continue
    const differs = Math.sqrt(ee / count)
    differing.push(differs)
    const rest = HELD * (xx + yy)
    const determinant = (xx + rest) * (yy + rest) - xy * xy
    if (Math.hypot((yy + rest) * ex - xy * ey, (xx + rest) * ey - xy * ex) > MOVED_px * determinant) moved.push(differs)
  }
  if (moved.length === 0) return 0
  const least = ABOVE_NOISE * quantile(differing, QUIETEST)
  return moved.filter((differs) => differs > least).length / differing.length
}

/** What is summed up in each cell. */
const SUMS = 7

/** xx, xy, yy of the gradients, their products with the residual, the residual's square, and how many points there are. */
function gatherCells({ points, width, height }: Level, samples: Float32Array): Float64Array {
  const { columns, rows } = netOf(width, height)
  const [across, down] = [columns - 1, rows - 1]
  const cells = new Float64Array(across * down * SUMS)
  const { gain, offset } = brightness(points, samples)
  // Spelled out, without lists or functions: there are tens of thousands of points, in every pair.
  for (let k = 0, p = 0; k < samples.length; k++, p += POINT.size) {
    const quiet = points[p + POINT.quiet]
    const residual = (gain * samples[k] + offset - points[p + POINT.value]) * quiet
    if (Number.isNaN(residual)) continue
    const column = Math.min(across - 1, Math.floor((points[p + POINT.x] / width + 0.5) * across))
    const row = Math.min(down - 1, Math.floor((points[p + POINT.y] / height + 0.5) * down))
    const s = SUMS * (row * across + column)
    const gx = points[p + POINT.gradientX] * quiet
    const gy = points[p + POINT.gradientY] * quiet
    cells[s] += gx * gx
    cells[s + 1] += gx * gy
    cells[s + 2] += gy * gy
    cells[s + 3] += gx * residual
    cells[s + 4] += gy * residual
    cells[s + 5] += residual * residual
    cells[s + 6]++
  }
  return cells
}
