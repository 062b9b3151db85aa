import { compose, IDENTITY, type Similarity } from '../raster'
import { POINT, POINTS_EACH, WasmKernels, Workspace, type Kernels } from '../raster/kernels'
import { exposureGain } from './exposure'
import type { Level, Prepared } from './prepare'
import { valueAt } from './select'
import { solve } from './solve'

export interface PairMotion {
  motion: Similarity
  /** Factor that brings the frame's exposure to the reference's, on encoded values. */
  gain: number
  /** Root mean square difference that remains, on 0 … 1, and the correlation of the two (1 = alike). */
  residual: number
  correlation: number
}

const MOST_STEPS = 16
const LEAST_POINTS = 50
const MOST_SHARE = 0.8
/** So many points tell the spread of the residuals. */
const MEDIAN_POINTS = 3000
/** Sums that samples are compared by, and that a step is solved from. */
const SUMS = { sampled: 6, step: 14 }
/** Movement of the corners, in px of a level, below which another step is not worth its time; on the finest and on others. */
const SETTLED_px = { finest: 0.008, coarser: 0.05 }

/** Registers pairs of frames with the kernels given, one after the other. */
export class PairRegistrar {
  constructor(private readonly kernels: Kernels = new WasmKernels()) {}

  /**
   * The motion from `reference` to `frame` (see Similarity), in pixels of the full picture of `fullWidth_px`, with the
   * gain of exposure. Coarse to fine, robust Gauss–Newton (Lucas & Kanade, 1981; Baker & Matthews, 2004) on the points
   * of the reference, on the finest level those in focus (see Preparer): they, not the blurred ones, are to coincide. A good `start`
   * lets it begin at a finer level than the coarsest.
   */
  register(
    reference: Prepared,
    frame: Prepared,
    fullWidth_px: number,
    start: Similarity = IDENTITY,
    coarsestLevel = reference.levels.length - 1,
  ): PairMotion {
    let motion = start
    let result = { motion, residual: 1, correlation: 0 }
    for (let k = Math.min(coarsestLevel, reference.levels.length - 1); k >= 0; k--) {
      const factor = reference.levels[k].width / fullWidth_px
      const settled_px = k === 0 ? SETTLED_px.finest : SETTLED_px.coarser
      const refined = new Refinement(this.kernels, reference.levels[k], frame.levels[k]).from(scaled(motion, factor), settled_px)
      motion = scaled(refined.motion, 1 / factor)
      result = { ...refined, motion }
    }
    const coarsest = reference.levels.at(-1)!
    const gain = exposureGain(coarsest, frame.levels.at(-1)!, scaled(motion, coarsest.width / fullWidth_px))
    return { ...result, gain }
  }
}

/** The same motion in a picture `factor` times as large. */
export function scaled(motion: Similarity, factor: number): Similarity {
  return { ...motion, dx_px: motion.dx_px * factor, dy_px: motion.dy_px * factor }
}

/** Two frames at one level, in the kernels' memory. */
class Refinement {
  private readonly count: number
  private readonly blocks: number
  private readonly points: number
  private readonly image: number
  private readonly samples: number
  private readonly sums: number

  constructor(
    private readonly kernels: Kernels,
    private readonly reference: Level,
    private readonly frame: Level,
  ) {
    const space = new Workspace(kernels, frame.width)
    this.count = reference.points.length / POINT.size
    this.blocks = Math.ceil(this.count / POINTS_EACH)
    this.points = space.bytes(reference.points.byteLength)
    this.image = space.bytes(frame.image.byteLength)
    this.samples = space.bytes(this.count * 4)
    this.sums = space.bytes(this.blocks * SUMS.step * 8)
    new Float32Array(kernels.buffer(), this.points, reference.points.length).set(reference.points)
    new Float32Array(kernels.buffer(), this.image, frame.image.length).set(frame.image)
  }

  from(start: Similarity, settled_px: number): Omit<PairMotion, 'gain'> {
    const { width, height } = this.reference
    const sooner = new Acceleration(width)
    const halfDiagonal = Math.hypot(width, height) / 2
    let motion = start
    let spread = Infinity
    let correlation = 0
    for (let step = 0; step < MOST_STEPS; step++) {
      const bright = this.sample(motion)
      if (!bright) break
      correlation = bright.correlation
      spread = this.spread(bright.gain, bright.offset)
      const found = this.step(bright.gain, bright.offset, spread)
      if (!found) break
      const change = sooner.of(found)
      motion = compose(motion, change)
      const turned = Math.abs(change.scale - 1) + Math.abs(change.rotation_rad)
      if (Math.hypot(change.dx_px, change.dy_px) + halfDiagonal * turned < settled_px) break
    }
    return { motion, residual: spread, correlation }
  }

  /**
   * Samples the moved frame. Answers gain and offset that bring the samples to the reference, by equal mean and spread
   * (symmetric in the two frames), and their correlation; nothing where too few points are inside.
   */
  private sample({ scale, rotation_rad, dx_px, dy_px }: Similarity) {
    const { width, height, stride } = this.frame
    const [a, b] = [scale * Math.cos(rotation_rad), scale * Math.sin(rotation_rad)]
    const place = [a, b, dx_px + (width - 1) / 2, dy_px + (height - 1) / 2]
    this.kernels.run('sampleAt', [this.points, this.count, this.image, stride, width, height, ...place, this.samples, this.sums], this.blocks)
    const [n, sumS, sumR, sumSS, sumRR, sumSR] = this.summed(SUMS.sampled)
    if (n < LEAST_POINTS) return undefined
    const varS = Math.max(sumSS / n - (sumS / n) ** 2, 1e-12)
    const varR = Math.max(sumRR / n - (sumR / n) ** 2, 1e-12)
    const gain = Math.sqrt(varR / varS)
    return { gain, offset: sumR / n - (gain * sumS) / n, correlation: (sumSR / n - (sumS * sumR) / n ** 2) / Math.sqrt(varS * varR) }
  }

  /** What the blocks' sums, so many each, add up to. */
  private summed(each: number): Float64Array {
    const parts = new Float64Array(this.kernels.buffer(), this.sums, this.blocks * each)
    const sums = new Float64Array(each)
    for (let k = 0, i = 0; k < parts.length; k++, i = i + 1 === each ? 0 : i + 1) sums[i] += parts[k]
    return sums
  }

  /** Spread of the residuals, by their median; every few points tell it well enough. */
  private spread(gain: number, offset: number): number {
    const { points } = this.reference
    const samples = new Float32Array(this.kernels.buffer(), this.samples, this.count)
    const apart = Math.max(1, Math.floor(this.count / MEDIAN_POINTS))
    const magnitudes = new Float32Array(Math.ceil(this.count / apart))
    let count = 0
    for (let k = 0; k < this.count; k += apart) {
      const p = k * POINT.size
      const magnitude = Math.abs(gain * samples[k] + offset - points[p + POINT.value]) * points[p + POINT.quiet]
      if (!Number.isNaN(magnitude)) magnitudes[count++] = magnitude
    }
    return Math.max(1.4826 * (count > 0 ? valueAt(magnitudes.subarray(0, count), count >> 1) : 0), 1e-5)
  }

  /**
   * One weighted least-squares step, as a motion applied before the present one. Gradients are those of the reference
   * (inverse compositional), so that each step samples the frame's values only.
   */
  private step(gain: number, offset: number, spread: number): Similarity | undefined {
    // Coordinates divided by the half width keep the four columns of one size.
    const unit = 2 / this.reference.width
    this.kernels.run('normalSums', [this.points, this.count, this.samples, gain, offset, 1 / (3 * spread), unit, this.sums], this.blocks)
    const [ss, sr, sx, sy, rr, rx, ry, xx, xy, yy, es, er, ex, ey] = this.summed(SUMS.step)
    const step = solve([
      Float64Array.of(ss, sr, sx, sy, es),
      Float64Array.of(sr, rr, rx, ry, er),
      Float64Array.of(sx, rx, xx, xy, ex),
      Float64Array.of(sy, ry, xy, yy, ey),
    ])
    return step && { scale: 1 + step[0] * unit, rotation_rad: step[1] * unit, dx_px: step[2], dy_px: step[3] }
  }
}

/**
 * Steps come out short by an even share where one frame is softer than the other: two of them in a row tell the share
 * (Aitken's method), and where they will lead.
 */
class Acceleration {
  private last?: number[]

  constructor(private readonly width: number) {}

  of({ scale, rotation_rad, dx_px, dy_px }: Similarity): Similarity {
    const half = this.width / 2
    const step = [(scale - 1) * half, rotation_rad * half, dx_px, dy_px]
    const dot = (a: number[], b: number[]) => a.reduce((sum, v, k) => sum + v * b[k], 0)
    const share = this.last ? dot(step, this.last) / dot(this.last, this.last) : 0
    if (!(share > 0.1 && share < MOST_SHARE)) {
      this.last = step
      return { scale, rotation_rad, dx_px, dy_px }
    }
    this.last = undefined
    const far = 1 / (1 - share)
    return { scale: 1 + (scale - 1) * far, rotation_rad: rotation_rad * far, dx_px: dx_px * far, dy_px: dy_px * far }
  }
}
