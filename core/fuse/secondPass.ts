import type { Plane } from '../raster'
import type { Slab, Workspace } from '../raster/kernels'
import type { Pyramids, Triple } from './pyramids'

/**
 * How much a frame's finest band counts by how many slices it lies from the depth, at 0, ½, 1 …, straight in between, 0 beyond the last. The near ones
 * average their noise; those that are out of focus take off some of what blur leaves in their neighbours.
 */
const BY_HALF_SLICES = [0.44, 0.49, 0.42, 0.07, -0.08, -0.08, -0.03, 0]
/** What the mean of neighbours loses, which are all a little out of focus. */
const GAIN = 1.03
/** Steps of a slice that weights are looked up by. */
const STEPS = 32
const WEIGHTS = Float32Array.from({ length: (BY_HALF_SLICES.length * STEPS) / 2 + 1 }, (_, k) => {
  const at = (2 * k) / STEPS
  const [before, part] = [Math.floor(at), at % 1]
  return (BY_HALF_SLICES[before] ?? 0) * (1 - part) + (BY_HALF_SLICES[before + 1] ?? 0) * part
})
/** Depth that varies by more slices than this over five px is a step, or no depth. */
const STEP_slices = 1.5
/** Where weights sum to less, the slices that would count are missing. */
const LEAST_SUM = 0.3
/** The first pass's band is kept in 16 bits, from −2 to 2. */
const KEPT_STEPS = 16_383
const SMOOTHINGS = 2
/** A depth that no frame is near: all weigh nothing. */
const NO_DEPTH = -1e4

/**
 * The finest band once more, when the depth is known: each frame counts by how many slices it lies from the depth there, the ones beyond the nearest less
 * than nothing. Taken where it has no less detail than what the first pass came to; where it has less, the depth was wrong. The first pass's sums are
 * kept in 16 bits, and their planes are summed in once more.
 */
export class SecondPass {
  private readonly kept: Triple
  private readonly depth: Plane
  private begun = false

  /** @param depth half the size, in frames, as the peaks tell it */
  constructor(
    private readonly space: Workspace,
    private readonly pyramids: Pyramids,
    private readonly sums: Triple,
    private readonly total: Slab,
    depth: Plane,
  ) {
    const { width, height } = total
    this.kept = [space.plane(width, height, 2), space.plane(width, height, 2), space.plane(width, height, 2)]
    this.depth = evenOnly(depth)
    const weights = space.view(total)
    sums.forEach((slab, channel) => {
      const [from, to] = [space.view(slab), this.keptOf(channel)]
      for (let i = 0; i < from.length; i++) to[i] = weights[i] > 0 ? Math.round((KEPT_STEPS * from[i]) / weights[i]) : 0
    })
  }

  /** Weighs frame `index`, in `weights`, a plane of the finest size. */
  weigh(index: number, weights: Slab): void {
    const view = this.space.view(weights)
    const { width, data } = this.depth
    const last = WEIGHTS.length - 1
    for (let y = 0; y < weights.height; y++) {
      const from = (y >> 1) * width
      for (let x = 0, i = y * weights.stride; x < weights.width; x++, i++) {
        const k = STEPS * Math.abs(index - data[from + (x >> 1)])
        view[i] = k < last ? WEIGHTS[Math.round(k)] : 0
      }
    }
  }

  /** Adds a frame's finest band as it was weighed. */
  add(fine: Triple, coarse: Triple, weights: Slab): void {
    this.pyramids.accumulate(fine, coarse, weights, { scale: 1, least: 0, power: 0 }, this.sums, this.total, this.begun)
    this.begun = true
  }

  /** Leaves in the sums, each of weight 1, what serves: the second pass's band or the first's. Computes in three planes of the finest size. */
  settle([a, b, c]: [Slab, Slab, Slab]): void {
    const [before, after] = [this.space.view(a), this.space.view(b)]
    const weights = this.space.view(this.total)
    const bands = this.sums.map((slab) => this.space.view(slab))
    const kept = this.sums.map((_, channel) => this.keptOf(channel))
    for (let i = 0; i < weights.length; i++) {
      const [part, own] = [1 / KEPT_STEPS, weights[i] > LEAST_SUM ? GAIN / weights[i] : 0]
      before[i] = part * part * (kept[0][i] ** 2 + kept[1][i] ** 2 + kept[2][i] ** 2)
      after[i] = own * own * (bands[0][i] ** 2 + bands[1][i] ** 2 + bands[2][i] ** 2)
    }
    const was = this.space.view(this.smoothed(a, c))
    const is = this.space.view(this.smoothed(b, c))
    for (let i = 0; i < weights.length; i++) {
      const second = weights[i] > LEAST_SUM && is[i] >= was[i]
      for (let channel = 0; channel < 3; channel++)
        bands[channel][i] = second ? (GAIN * bands[channel][i]) / weights[i] : kept[channel][i] / KEPT_STEPS
      weights[i] = 1
    }
  }

  /** An even number of times, so that it lies where it lay. */
  private smoothed(plane: Slab, spare: Slab): Slab {
    for (let k = 0; k < SMOOTHINGS; k += 2) {
      this.pyramids.smooth(plane, spare)
      this.pyramids.smooth(spare, plane)
    }
    return plane
  }

  private keptOf(channel: number): Int16Array {
    const { at, stride, height } = this.kept[channel]
    return new Int16Array(this.space.kernels.buffer(), at, stride * height)
  }
}

/** A depth where it varies little around. */
function evenOnly({ width, height, data }: Plane): Plane {
  const [least, most] = [new Float32Array(data.length), new Float32Array(data.length)]
  const out = new Float32Array(data.length)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const [before, after] = [data[x > 0 ? i - 1 : i], data[x < width - 1 ? i + 1 : i]]
      least[i] = Math.min(before, data[i], after)
      most[i] = Math.max(before, data[i], after)
    }
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const [above, below] = [y > 0 ? i - width : i, y < height - 1 ? i + width : i]
      const varies = Math.max(most[above], most[i], most[below]) - Math.min(least[above], least[i], least[below])
      out[i] = varies < STEP_slices ? data[i] : NO_DEPTH
    }
  return { width, height, data: out }
}
