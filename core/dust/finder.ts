import { membrane } from '../mend'
import { beneath, dipAt, type Disc, type KeptFrame } from './beneath'
import { apply, createPlane, invert, reduce, smooth, type Plane, type Similarity } from '../raster'

/** A speck on the sensor: it lies at the same place of every frame. Lengths in px of the frames that were looked at. */
export interface Speck {
  x: number
  y: number
  radius_px: number
  /** How much of the light it takes away at its middle, 0 … 1, on encoded values. */
  darkness: number
  /** The rectangle that it covers, with its soft rim. */
  left: number
  top: number
  width: number
  height: number
  /** What of the light comes through, row by row; 1 beside the speck. */
  shade: Float32Array
}

export interface FoundDust {
  /** Size of the frames that were looked at. */
  width: number
  height: number
  specks: Speck[]
}

/** Dust is looked for in frames no wider than this: smaller specks do no harm. */
export const DUST_WIDTH_px = 1000

/** Detail is looked at in so many sizes, each twice as coarse: specks of a few px and of some dozen. */
const SIZES = 3
/** A place is looked at where the frames in the mean are darker than around by so much, as a logarithm. */
const LEAST_MEAN = 0.015
/** So many of them at the most in each size, the darkest: dust stands out, and texture has thousands. */
const MOST_CANDIDATES = 200
/** What is steadily dark is so by more than this. */
const LEAST_DIP = 0.008
/** Such a speck takes away so much, as a logarithm; what was beneath it is darker than around by at most a part of that, */
const LEAST_DARK = 0.075
const BENEATH = 0.15
/** and four frames of five have this part of it. So many pairs of frames tell. */
const MOSTLY = 0.65
/** It stands out from what the subject has there by so many deviations. */
const TIMES_SPREAD = 2.3
const LEAST_PAIRS = 4
/** Where the subject hardly moves, what is steady beyond doubt: in the two finest sizes together, and in the finest; and so dark. */
const MIDDLE = { steady: 1.8, finest: 0.3, dip: 0.02 }
/** What lies around it, in the mean of the frames, is darker than around by at most this part: it is a spot, and no line. */
const ALONE = 0.5
/** Specks are no larger and no smaller than this, as parts of the width, and at least so many px. */
const MOST_RADIUS = 0.02
/** The subject moved beneath it all the same: by so much of its radius, and so many px. */
const MOVED = 0.5
const LEAST_MOVED_px = 2.5
/** The focus passed through the subject: its detail changed by this factor. A spot on it would have changed too. */
const PASSED = 8
const CELL_px = 8
/** A speck's rim goes on so far beyond what is surely dark, in parts of its radius. */
const RIM = 0.6

/**
 * Finds dust on the sensor from a whole series, before its frames are moved: what lies still and equally dark in every frame, while
 * the subject beneath breathes, nears or goes through the focus. Takes each frame once; memory does not grow with their number.
 */
export class DustFinder {
  private logs: Plane = { width: 0, height: 0, data: new Float32Array() }
  /** The least and the most that any frame is darker than around, size by size. */
  private dips: { least: Plane; most: Plane; sum: Plane }[] = []
  /** The least and the most detail that any frame shows in each cell. */
  private detail?: { least: Float32Array; most: Float32Array }
  private count = 0
  /** Frames as logarithms, in parts of LOG_PART; of long series every second, fourth, … one. */
  private kept: KeptFrame[] = []
  private every = 1

  /** Takes the next frame's luma, encoded, 0 … 1, some 600 to 1000 px wide; all frames must have one size. */
  add(luma: Plane): void {
    if (this.count === 0) this.logs = createPlane(luma.width, luma.height)
    const log = createPlane(luma.width, luma.height)
    for (let i = 0; i < log.data.length; i++) {
      const value = Math.log(Math.max(luma.data[i], 1 / 255))
      log.data[i] = value
      this.logs.data[i] += value
    }
    this.keep(log)
    let plane: Plane = log
    for (let size = 0; size < SIZES; size++) {
      const fine = smooth(plane)
      const dip = lessEach(smooth(smooth(smooth(smooth(fine)))), fine)
      if (size === 0) this.keepDetail(dip)
      const known = this.dips[size]
      if (!known) this.dips.push({ least: dip, most: copyOf(dip), sum: copyOf(dip) })
      else
        for (let i = 0; i < dip.data.length; i++) {
          if (dip.data[i] < known.least.data[i]) known.least.data[i] = dip.data[i]
          if (dip.data[i] > known.most.data[i]) known.most.data[i] = dip.data[i]
          known.sum.data[i] += dip.data[i]
        }
      if (size + 1 < SIZES) plane = reduce(plane)
    }
    this.count++
  }

  /**
   * What was found; `motions` lead from the reference to each frame that was added, in px of frames `width_px` wide, undefined for one
   * that lies nowhere on it. Fewer than five frames tell nothing.
   */
  finish(motions: (Similarity | undefined)[], width_px = this.width): FoundDust {
    const { width, height, count } = this
    const scale = width / width_px
    const small = motions.map((motion) => motion && { ...motion, dx_px: motion.dx_px * scale, dy_px: motion.dy_px * scale })
    if (count < LEAST_FRAMES) return { width, height, specks: [] }
    const specks = this.candidates()
      .filter((disc) => this.isSpeck(disc, small))
      .flatMap((disc) => this.speckOf(disc))
    return { width, height, specks }
  }

  private keep({ data }: Plane): void {
    if (this.count % this.every !== 0) return
    // Made in a loop: a call for each value takes ten times as long.
    const log = new Int16Array(data.length)
    for (let i = 0; i < log.length; i++) log[i] = Math.round(data[i] / LOG_PART)
    this.kept.push({ index: this.count, log })
    if (this.kept.length <= MOST_KEPT) return
    this.every *= 2
    this.kept = this.kept.filter(({ index }) => index % this.every === 0)
  }

  /** Dark spots of the mean of all frames, the darkest first, none within another; each of the size that suits it best. */
  private candidates(): Disc[] {
    const mean = { width: this.width, height: this.height, data: Int16Array.from(this.logs.data, (value) => value / this.count / LOG_PART) }
    const most_px = MOST_RADIUS * this.width
    const found = this.dips.flatMap(({ sum, least }, size) =>
      peaksOf(sum)
        .filter((at) => sum.data[at] > LEAST_MEAN * this.count && least.data[at] > -LEAST_MEAN)
        .sort((a, b) => sum.data[b] - sum.data[a])
        .slice(0, MOST_CANDIDATES)
        .map((at) => fitted(mean, { x: (at % sum.width) * 2 ** size, y: Math.floor(at / sum.width) * 2 ** size }, most_px)),
    )
    const kept: (Disc & { dark: number })[] = []
    for (const disc of found.sort((a, b) => b.dark - a.dark))
      if (!kept.some(({ x, y, radius_px }) => Math.hypot(x - disc.x, y - disc.y) < Math.max(radius_px, disc.radius_px))) kept.push(disc)
    return kept
  }

  /** It is dark in every frame and alone, and the subject beneath it is not, where frames show that beside it. */
  private isSpeck(disc: Disc, motions: (Similarity | undefined)[]): boolean {
    if (!this.isAlone(disc)) return false
    const { place, mostly, subject, spread, pairs } = beneath(this.kept, motions, this.width, this.height, disc)
    if (pairs >= LEAST_PAIRS)
      return place * LOG_PART > LEAST_DARK && subject < BENEATH * place && mostly > MOSTLY * place && place - subject > TIMES_SPREAD * spread
    // The subject hardly moves there: only what is beyond doubt is believed.
    const [finest, second] = this.dips.slice(0, 2).map((_, size) => this.middleOf(size, disc.x, disc.y))
    if (finest.steady < MIDDLE.finest || finest.dip < MIDDLE.dip || finest.steady + second.steady < MIDDLE.steady) return false
    return this.passed() > PASSED || moved_px(disc, motions, this.width, this.height) > Math.max(LEAST_MOVED_px, MOVED * disc.radius_px)
  }

  private isAlone({ x, y, radius_px }: Disc): boolean {
    // The size that suits it shows whether it is alone.
    const size = Math.min(SIZES - 1, Math.max(0, Math.round(Math.log2(radius_px / 2))))
    const { sum } = this.dips[size]
    const at = (px: number, py: number) => {
      const [u, v] = [Math.round(px) >> size, Math.round(py) >> size]
      return u < 0 || v < 0 || u >= sum.width || v >= sum.height ? 0 : sum.data[v * sum.width + u]
    }
    const away = 2.2 * Math.max(radius_px, 2)
    const around = Array.from({ length: 12 }, (_, k) => at(x + away * Math.cos((k * Math.PI) / 6), y + away * Math.sin((k * Math.PI) / 6)))
    return Math.max(...around) < ALONE * at(x, y)
  }

  /** The steadiest place near a speck's middle. */
  private middleOf(size: number, x: number, y: number): { steady: number; dip: number } {
    const { least, most } = this.dips[size]
    const best = { steady: 0, dip: 0 }
    for (let dy = -3; dy <= 3; dy++)
      for (let dx = -3; dx <= 3; dx++) {
        const [u, v] = [Math.round(x + dx) >> size, Math.round(y + dy) >> size]
        if (u < 0 || v < 0 || u >= least.width || v >= least.height) continue
        const dip = least.data[v * least.width + u]
        const steady = dip / most.data[v * least.width + u]
        if (dip > LEAST_DIP && steady > best.steady) Object.assign(best, { steady, dip })
      }
    return best
  }

  private get width(): number {
    return this.logs.width
  }

  private get height(): number {
    return this.logs.height
  }

  private keepDetail({ data }: Plane): void {
    const [across, down] = [Math.ceil(this.width / CELL_px), Math.ceil(this.height / CELL_px)]
    const sums = new Float32Array(across * down)
    for (let y = 0, i = 0; y < this.height; y++)
      for (let x = 0; x < this.width; x++, i++) sums[Math.floor(y / CELL_px) * across + Math.floor(x / CELL_px)] += data[i] ** 2
    const { detail } = this
    this.detail = {
      least: detail ? sums.map((sum, k) => Math.min(sum, detail.least[k])) : sums,
      most: detail ? sums.map((sum, k) => Math.max(sum, detail.most[k])) : sums,
    }
  }

  /** How much detail changed as the focus passed: in the middle of those cells that have any. */
  private passed(): number {
    const { least, most } = this.detail!
    const usual = [...most].sort((a, b) => a - b)[most.length >> 1]
    const ratios = [...most].flatMap((value, k) => (value >= usual ? [value / Math.max(1e-6, least[k])] : [])).sort((a, b) => a - b)
    return ratios[ratios.length >> 1] ?? 0
  }

  /** Its shade: the mean of all frames beside what that would be without it. */
  private speckOf({ x, y, radius_px }: Disc): Speck[] {
    const [left, top] = [x, y].map((middle) => Math.floor(middle - radius_px))
    const [right, bottom] = [x, y].map((middle) => Math.ceil(middle + radius_px))
    const rim = Math.max(2, Math.ceil(RIM * radius_px))
    const margin = 2 * rim + 2
    const [l, t] = [Math.max(0, left - margin), Math.max(0, top - margin)]
    const [w, h] = [Math.min(this.width, right + margin + 1) - l, Math.min(this.height, bottom + margin + 1) - t]
    const samples = new Float32Array(w * h * 3)
    const known = new Uint8Array(w * h)
    for (let py = 0, i = 0; py < h; py++)
      for (let px = 0; px < w; px++, i++) {
        samples.fill(this.logs.data[(t + py) * this.width + l + px] / this.count, 3 * i, 3 * i + 3)
        const [dx, dy] = [Math.max(left - rim - l - px, px + l - right - rim, 0), Math.max(top - rim - t - py, py + t - bottom - rim, 0)]
        known[i] = Number(dx > 0 || dy > 0)
      }
    const even = membrane({ width: w, height: h, samples }, known)
    const shade = Float32Array.from(known, (is, i) => (is ? 1 : Math.min(1, Math.exp(samples[3 * i] - even.samples[3 * i]))))
    const darkness = 1 - shade.reduce((least, value) => Math.min(least, value), 1)
    return darkness > LEAST_DIP ? [{ x, y, radius_px, darkness, left: l, top: t, width: w, height: h, shade }] : []
  }
}

const LEAST_FRAMES = 5
/** Frames are kept as logarithms in steps of this; so many at the most. */
const LOG_PART = 1 / 4096
const MOST_KEPT = 64

/** Places of a plane that are higher than the eight around them. */
function peaksOf({ width, height, data }: Plane): number[] {
  const peaks: number[] = []
  for (let y = 1; y < height - 1; y++)
    for (let x = 1, i = y * width + 1; x < width - 1; x++, i++) {
      const value = data[i]
      if (value <= 0) continue
      const around = [i - width - 1, i - width, i - width + 1, i - 1, i + 1, i + width - 1, i + width, i + width + 1]
      if (around.every((other) => data[other] < value || (data[other] === value && other > i))) peaks.push(i)
    }
  return peaks
}

/** The disc about a place that stands out most from the ring around it, in parts of a logarithm. */
function fitted(
  mean: { width: number; height: number; data: Int16Array },
  { x, y }: { x: number; y: number },
  most_px: number,
): Disc & { dark: number } {
  let best = { x, y, radius_px: 2, dark: 0 }
  for (let radius_px = 2; radius_px <= most_px; radius_px *= 1.25) {
    const dip = dipAt(mean.data, mean.width, mean.height, x, y, radius_px)
    // Larger discs count a little more: within a speck all are alike.
    const dark = dip * Math.sqrt(radius_px)
    if (dark > best.dark) best = { x, y, radius_px, dark }
  }
  return best
}

/** How far the subject moves beneath a place, from where the reference has it. */
function moved_px({ x, y }: Disc, motions: (Similarity | undefined)[], width: number, height: number): number {
  const [u, v] = [x - (width - 1) / 2, y - (height - 1) / 2]
  return motions.reduce<number>((most, motion) => {
    if (!motion) return most
    const [a, b] = apply(invert(motion), u, v)
    return Math.max(most, Math.hypot(a - u, b - v))
  }, 0)
}

const copyOf = (plane: Plane): Plane => ({ ...plane, data: plane.data.slice() })

const lessEach = (a: Plane, b: Plane): Plane => ({ ...a, data: a.data.map((value, i) => value - b.data[i]) })
