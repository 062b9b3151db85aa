import type { Similarity } from '../../raster'
import { POINT } from '../../raster/kernels'
import type { Level, Prepared } from '../prepare'
import { corners, neighbours, netOf, place, type Net, type Placed } from './net'
import { brightness, sampledBy } from './samples'

/** How parts of a frame lie in another, beside the motion of the whole: displacements of nodes, and how well each is known. */
export interface LocalMotion {
  net: Net
  /** Displacements in px of the full picture, at the nodes of the frame that it starts from: x and y in turn. */
  shifts_px: Float64Array
  /** Three numbers a node, xx, xy, yy: one over the square of how far a displacement may be wrong, in px of the full picture. */
  certainty: Float64Array
  /** How many px of the full picture make one that was looked at. */
  pixel_px: number
}

/** Nothing moves on its own by more than about this part of the picture's width, and nodes beside each other by about as much less. */
const USUAL = 0.003
const USUAL_BETWEEN = 0.0015
/** Points beside each other show the same blur and the same noise: so many tell as much as one that stands alone. */
const ALIKE = 20
/** Levels below this width tell no part from the next. */
const COARSEST_px = 90
const STEPS = 8
const SWEEPS = 10
/** So many points are looked at, at the most. */
const MOST_POINTS = 16_000
/** Residuals beyond so many deviations do not count. */
const CUT = 4
/** Where nothing moved, it lies in its place within so many px of those looked at. */
const QUIET_px = 0.3
/** Movement in px of a level after which another step is not worth its time. */
const SETTLED_px = 0.04

/**
 * Measures what moved on its own between two frames, when `motion` is the motion from `from` to `to`: Lucas & Kanade's (1981)
 * equations, gathered at the nodes of a net by bilinear shares, and held together by a membrane (Horn & Schunck, 1981), coarse
 * to fine, on the points that pairs are aligned on. Where there are none nothing is certain.
 */
export function measureLocal(from: Prepared, to: Prepared, motion: Similarity, fullWidth_px: number): LocalMotion {
  const [finest] = from.levels
  const net = netOf(finest.width, finest.height)
  const count = net.columns * net.rows
  let shifts: Float64Array = new Float64Array(2 * count)
  let certainty: Float64Array = new Float64Array(0)
  const levels = from.levels.filter(({ width }, k) => k === 0 || width >= COARSEST_px)
  for (let k = levels.length - 1; k >= 0; k--) {
    const factor = levels[k].width / fullWidth_px
    const { width, height } = levels[k]
    const points = thinned(levels[k].points)
    const placed = place(net, points.length / POINT.size, (p) => [
      points[p * POINT.size + POINT.x] / width + 0.5,
      points[p * POINT.size + POINT.y] / height + 0.5,
    ])
    const scaled = { ...motion, dx_px: motion.dx_px * factor, dy_px: motion.dy_px * factor }
    shifts = shifts.map((shift) => shift * factor)
    certainty = new Float64Array(3 * count)
    for (let step = 0; step < STEPS; step++) {
      const gathered = gather(points, to.levels[k], scaled, shifts, net, placed)
      if (!gathered) break
      certainty = gathered.certainty
      const moved = settle(net, shifts, gathered, levels[k].width)
      if (moved < SETTLED_px) break
    }
    shifts = shifts.map((shift) => shift / factor)
    certainty = certainty.map((value) => value * factor ** 2)
  }
  return { net, shifts_px: shifts, certainty, pixel_px: fullWidth_px / finest.width }
}

/** As it is measured between two frames of which nothing moved on its own. */
export function quietLocal({ levels: [finest] }: Prepared, fullWidth_px: number): LocalMotion {
  const net = netOf(finest.width, finest.height)
  const count = net.columns * net.rows
  const pixel_px = fullWidth_px / finest.width
  const certain = 1 / (QUIET_px * pixel_px) ** 2
  const certainty = Float64Array.from({ length: 3 * count }, (_, k) => (k % 3 === 1 ? 0 : certain))
  return { net, shifts_px: new Float64Array(2 * count), certainty, pixel_px }
}

/** Every so many points, where there are more than are needed. */
function thinned(points: Float32Array): Float32Array {
  const count = points.length / POINT.size
  const apart = Math.ceil(count / MOST_POINTS)
  if (apart === 1) return points
  const kept = new Float32Array(Math.ceil(count / apart) * POINT.size)
  for (let k = 0, to = 0; k < count; k += apart, to += POINT.size) kept.set(points.subarray(k * POINT.size, (k + 1) * POINT.size), to)
  return kept
}

interface Gathered {
  certainty: Float64Array
  /** What pulls each node, x and y. */
  pull: Float64Array
}

/** The equations at the nodes, from how the samples of `to` differ from what the points of `from` show. */
function gather(points: Float32Array, to: Level, motion: Similarity, shifts: Float64Array, net: Net, placed: Placed): Gathered | undefined {
  const count = points.length / POINT.size
  const samples = sampled(points, to, motion, shifts, net, placed)
  const { gain, offset } = brightness(points, samples)
  const residuals = new Float64Array(count)
  for (let k = 0; k < count; k++) {
    const p = k * POINT.size
    residuals[k] = (gain * samples[k] + offset - points[p + POINT.value]) * points[p + POINT.quiet]
  }
  const spreads = spreadsOf(residuals, placed, net)
  if (!spreads) return undefined
  const nodes = net.columns * net.rows
  const [certainty, pull] = [new Float64Array(3 * nodes), new Float64Array(2 * nodes)]
  const corner = corners(net)
  for (let k = 0; k < count; k++) {
    const spread = spreads[placed.nodes[k]]
    const t = residuals[k] / (CUT * spread)
    if (!(t > -1 && t < 1)) continue
    const p = k * POINT.size
    const weight = (1 - t * t) ** 2 / (ALIKE * spread ** 2)
    const [gx, gy] = [points[p + POINT.gradientX] * points[p + POINT.quiet], points[p + POINT.gradientY] * points[p + POINT.quiet]]
    for (let c = 0; c < 4; c++) {
      const node = placed.nodes[k] + corner[c]
      const w = weight * placed.shares[4 * k + c]
      certainty[3 * node] += w * gx * gx
      certainty[3 * node + 1] += w * gx * gy
      certainty[3 * node + 2] += w * gy * gy
      pull[2 * node] -= w * gx * residuals[k]
      pull[2 * node + 1] -= w * gy * residuals[k]
    }
  }
  return { certainty, pull }
}

/**
 * How far residuals usually go in each cell, by its upper left node: what moved there differs more than the rest of the
 * picture, and is not to be taken for something that does not belong. Nothing where too few points are inside.
 */
function spreadsOf(residuals: Float64Array, { nodes }: Placed, { columns, rows }: Net): Float64Array | undefined {
  const [sums, counts] = [new Float64Array(columns * rows), new Float64Array(columns * rows)]
  const sizes: number[] = []
  residuals.forEach((residual, k) => {
    if (Number.isNaN(residual)) return
    sums[nodes[k]] += Math.abs(residual)
    counts[nodes[k]]++
    if (k % 5 === 0) sizes.push(Math.abs(residual))
  })
  if (sizes.length < 10) return undefined
  const usual = Math.max(1.4826 * sizes.sort((a, b) => a - b)[sizes.length >> 1], 1e-4)
  // 1.25 times the mean is the deviation of what is evenly spread about nothing.
  return sums.map((sum, node) => Math.max(usual, counts[node] > 0 ? (1.25 * sum) / counts[node] : 0))
}

/** What `to` shows where the points of `from` lie by motion and shifts; NaN outside of it. */
function sampled(points: Float32Array, to: Level, motion: Similarity, shifts: Float64Array, net: Net, { nodes, shares }: Placed): Float32Array {
  const corner = corners(net)
  return sampledBy(points, to, motion, (k) => {
    let [x, y] = [0, 0]
    for (let c = 0; c < 4; c++) {
      const node = nodes[k] + corner[c]
      const share = shares[4 * k + c]
      x += share * shifts[2 * node]
      y += share * shifts[2 * node + 1]
    }
    return [x, y]
  })
}

/** Moves the nodes to where equations, membrane and rest agree (Gauss–Seidel). Answers the farthest that one moved. */
function settle(net: Net, shifts: Float64Array, { certainty, pull }: Gathered, width: number): number {
  const rest = 1 / (USUAL * width) ** 2
  const tie = 1 / (USUAL_BETWEEN * width) ** 2
  const before = shifts.slice()
  const wanted = pull.map((value, k) => {
    const [node, axis] = [k >> 1, k & 1]
    return value + certainty[3 * node + axis] * shifts[2 * node] + certainty[3 * node + 1 + axis] * shifts[2 * node + 1]
  })
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    for (let node = 0; node < certainty.length / 3; node++) {
      let [x, y, held] = [wanted[2 * node], wanted[2 * node + 1], rest]
      neighbours(net, node, (other) => {
        x += tie * shifts[2 * other]
        y += tie * shifts[2 * other + 1]
        held += tie
      })
      const [xx, xy, yy] = [certainty[3 * node] + held, certainty[3 * node + 1], certainty[3 * node + 2] + held]
      const determinant = xx * yy - xy * xy
      shifts[2 * node] = (yy * x - xy * y) / determinant
      shifts[2 * node + 1] = (xx * y - xy * x) / determinant
    }
  }
  return shifts.reduce((most, shift, k) => Math.max(most, Math.abs(shift - before[k])), 0)
}
