import { compose, createPlane, invert, type Plane, type Similarity } from '../raster'
import { PAIR_numbers, Planes, WasmKernels, type Kernels } from '../raster/kernels'
import { Narrowing, WIDE } from './narrowing'
import { coarse, difference, MOST_SQUARE, NOISE_SQUARE, placing, seenIn, type Logs, type Placing } from './seen'

/** A frame's detail in steps of LOG_PART of a logarithm, and how it lies. */
export interface KeptFrame {
  log: Int16Array
  motion: Similarity
}

/** Frames are compared with those so many places before and after them. */
const APART = [1, 2, 4]
/** Rounds for the whole sensor. */
const ROUNDS = 10
/** What frames differ by is taken together in cells of so many coarse px. */
const CELL_px = 8

/** One frame seen from another: where it shows the same part of the subject, and how much that counts in each cell. */
export interface Pair {
  of: number
  other: number
  coarse: Placing
  full: Placing
  weights: Float32Array
}

const NONE: Float32Array = new Float32Array()

/**
 * What the sensor itself does to each place of every frame, as a logarithm of the light that comes through; from frames of a subject that
 * moves over it. Two frames that show the same part of the subject at two places of the sensor differ by what these places do:
 *   L₁(p) − L₂(q) = δ(p) − δ(q).
 * All pairs together are solved for δ by repeated substitution (Kuhn, Lin & Loranz, 1991, "Gain calibrating nonuniform image-array data
 * using only the image data"), each weighted by how alike its frames are there: what comes into focus differs for another reason. Where the
 * subject does not move, δ stays 0.
 */
export class SensorField {
  /** What was found of the whole sensor, `step` times as coarse as the frames. */
  readonly shade: Plane
  readonly step: number
  readonly pairs: Pair[]
  /** What is wider than this was left out of the frames. */
  readonly wide_px: number
  private readonly across: number

  constructor(
    readonly frames: KeptFrame[],
    readonly width: number,
    readonly height: number,
    kernels: Kernels = new WasmKernels(),
  ) {
    const logs = frames.map(({ log }) => coarse({ width, height, data: log }))
    const small = logs[0]
    this.step = Math.round(width / small.width)
    this.across = Math.ceil(small.width / CELL_px)
    this.wide_px = WIDE * width
    const [base, total] = [createPlane(small.width, small.height), createPlane(small.width, small.height)]
    const apart = new Float32Array(base.data.length)
    this.pairs = frames.flatMap(({ motion }, of) =>
      APART.flatMap((step) => [of - step, of + step]).flatMap((other) => {
        if (!frames[other]) return []
        const between = compose(frames[other].motion, invert(motion))
        const pair = { of, other, ...this.placings(between, small), weights: NONE }
        difference(logs[of], logs[other], pair.coarse, { x: 0, y: 0, ...base }, apart)
        pair.weights = this.weigh(base, apart)
        for (let y = 0, i = 0; y < base.height; y++)
          for (let x = 0; x < base.width; x++, i++) {
            if (Number.isNaN(apart[i])) continue
            const w = pair.weights[this.cellOf(x, y)]
            base.data[i] += w * apart[i]
            total.data[i] += w
          }
        return [pair]
      }),
    )
    this.shade = this.solve(base, total, kernels)
  }

  logsOf(frame: number): Logs {
    return { width: this.width, height: this.height, data: this.frames[frame].log }
  }

  private placings(motion: Similarity, small: { width: number; height: number }): { coarse: Placing; full: Placing } {
    const near = { ...motion, dx_px: motion.dx_px / this.step, dy_px: motion.dy_px / this.step }
    return { coarse: placing(near, small.width, small.height), full: placing(motion, this.width, this.height) }
  }

  /** Substitutes δ until it stands for all; what is wide is left out, as pairs hardly tell it. */
  private solve(base: Plane, total: Plane, kernels: Kernels): Plane {
    const { width, height } = base
    const planes = new Planes(kernels, width, height)
    const narrowing = new Narrowing(planes)
    const room = (count: number) => planes.space.bytes(4 * count)
    const [shadeAt, sumAt] = [room(width * height), room(width * height)]
    const pairs = this.pairs.map((pair) => ({ ...pair, weightsAt: room(pair.weights.length), boundsAt: room(2 * height) }))
    const pairsAt = room(2 * PAIR_numbers * pairs.length)
    // All places are known: the memory moves no more.
    const floats = (at: number, count: number) => new Float32Array(kernels.buffer(), at, count)
    for (const [k, { coarse: placed, weights, weightsAt, boundsAt }] of pairs.entries()) {
      const { a, b, u, v } = placed
      new Float64Array(kernels.buffer(), pairsAt, PAIR_numbers * pairs.length).set([weightsAt, boundsAt, a, b, u, v], PAIR_numbers * k)
      floats(weightsAt, weights.length).set(weights)
      const bounds = new Int32Array(kernels.buffer(), boundsAt, 2 * height)
      for (let y = 0; y < height; y++) bounds.set(seenIn(placed, y, width, height), 2 * y)
    }
    let shade = createPlane(width, height)
    for (let round = 0; round < ROUNDS; round++) {
      floats(shadeAt, shade.data.length).set(shade.data)
      floats(sumAt, base.data.length).set(base.data)
      // Places are rounded, as what is so near is nearly alike.
      kernels.run('addAllSeen', [shadeAt, width, this.across, pairsAt, pairs.length, sumAt], height)
      const sum = floats(sumAt, base.data.length).slice()
      for (let i = 0; i < sum.length; i++) sum[i] = total.data[i] > 0 ? sum[i] / total.data[i] : 0
      shade = narrowing.of({ width, height, data: sum })
    }
    return shade
  }

  /** The weight of each cell: 1 over the variance of what two frames differ by, there and in the cells around. */
  private weigh({ width, height }: Plane, apart: Float32Array): Float32Array {
    const [across, down] = [this.across, Math.ceil(height / CELL_px)]
    const [squares, counts] = [new Float32Array(across * down), new Float32Array(across * down)]
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        if (Number.isNaN(apart[i])) continue
        const cell = this.cellOf(x, y)
        squares[cell] += Math.min(MOST_SQUARE, apart[i] * apart[i])
        counts[cell]++
      }
    return squares.map((_, cell) => {
      let [sum, count] = [0, 0]
      for (let dy = -1; dy <= 1; dy++)
        for (let dx = -1; dx <= 1; dx++) {
          const [x, y] = [(cell % across) + dx, Math.floor(cell / across) + dy]
          if (x < 0 || y < 0 || x >= across || y >= down) continue
          sum += squares[y * across + x]
          count += counts[y * across + x]
        }
      return count > 0 ? 1 / (sum / count + NOISE_SQUARE) : 0
    })
  }

  /** How much a pair with such weights counts at a place of the frames. */
  weightAt(weights: Float32Array, x: number, y: number): number {
    return weights[this.cellOf(Math.floor(x / this.step), Math.floor(y / this.step))]
  }

  /** The cell of a coarse place. */
  private cellOf(x: number, y: number): number {
    return (y >> 3) * this.across + (x >> 3)
  }
}
