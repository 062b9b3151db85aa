import type { Plane } from '../raster'
import type { Slab, Workspace } from '../raster/kernels'
import { inSteps } from './finest'
import { MEAN_STEPS, type Pyramids, type Triple } from './pyramids'

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
/** Sums of a few bands, each by half at the most, are kept in whole steps of 1. */
const SUM_STEPS = 16_383
const SMOOTHINGS = 2
/** A depth that no frame is near: all weigh nothing. */
const NO_DEPTH = -1e4

/**
 * The finest band once more, when the depth is known: each frame counts by how many slices it lies from the depth there, the ones beyond the nearest less
 * than nothing. Taken where it has no less detail than what the first pass came to; where it has less, the depth was wrong.
 */
export class SecondPass {
  private readonly sums: Triple
  private readonly depth: Plane
  private begun = false

  /**
   * @param means what the first pass came to
   * @param total a plane of the finest size for the sum of the weights; what is in it is not needed any more
   * @param depth half the size, in frames, as the peaks tell it
   */
  constructor(
    private readonly space: Workspace,
    private readonly pyramids: Pyramids,
    private readonly means: Triple,
    private readonly total: Slab,
    depth: Plane,
  ) {
    const { width, height } = total
    this.sums = [space.plane(width, height, 2), space.plane(width, height, 2), space.plane(width, height, 2)]
    this.depth = evenOnly(depth)
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
    this.pyramids.average(fine, coarse, weights, { scale: 1, least: 0, power: 0 }, this.sums, this.total, this.begun, SUM_STEPS)
    this.begun = true
  }

  /** Leaves in the means what serves: the second pass's band or the first's. Computes in three planes of the finest size. */
  settle([a, b, c]: [Slab, Slab, Slab]): void {
    const [before, after] = [this.space.view(a), this.space.view(b)]
    const weights = this.space.view(this.total)
    const [means, sums] = [this.means, this.sums].map((triple) => triple.map((slab) => this.space.steps(slab)))
    // What a sum comes to, in the steps of means.
    const factor = (i: number) => (weights[i] > LEAST_SUM ? (GAIN * MEAN_STEPS) / (SUM_STEPS * weights[i]) : 0)
    for (let i = 0; i < weights.length; i++) {
      const own = factor(i)
      before[i] = means[0][i] ** 2 + means[1][i] ** 2 + means[2][i] ** 2
      after[i] = own * own * (sums[0][i] ** 2 + sums[1][i] ** 2 + sums[2][i] ** 2)
    }
    const was = this.space.view(this.smoothed(a, c))
    const is = this.space.view(this.smoothed(b, c))
    for (let i = 0; i < weights.length; i++) {
      if (!(weights[i] > LEAST_SUM && is[i] >= was[i])) continue
      const own = factor(i)
      for (let channel = 0; channel < 3; channel++) means[channel][i] = inSteps(own * sums[channel][i])
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
