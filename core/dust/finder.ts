import { membrane } from '../mend'
import { deviation, mean as meanOf } from '../statistics'
import { reduce, smooth, type Plane, type Rectangle, type Similarity } from '../raster'
import { centred, discOf, evenedAround, fitted, type Disc } from './disc'
import type { CloseUp } from './closeLook'
import { SensorField } from './field'
import { lightLogs, LOG_PART, narrowOf } from './seen'

/** A speck on the sensor: it lies at the same place of every frame. Lengths in px of the frames that were looked at. */
export interface Speck {
  x: number
  y: number
  radius_px: number
  /** How much of the light it takes away where it is darkest, 0 … 1. */
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
  /** Size of the frames that were looked at, and how wide they were before they were halved to that. */
  width: number
  height: number
  unhalved_px: number
  specks: Speck[]
}

/** Dust is looked for in frames no wider than this: smaller specks do no harm. */
export const DUST_WIDTH_px = 1000

const LEAST_FRAMES = 5
/** So many frames tell enough; of long series every second, fourth, … one is kept. */
const MOST_KEPT = 24
/** Spots are looked for in so many sizes, each twice as coarse, and so many of them at the most in each. */
const SIZES = 3
const MOST_CANDIDATES = 60
const LEAST_DIP = 0.045
/**
 * A speck takes away so much at the least, as a logarithm, and each frame says so alone: four of five have this part of the mean, and the
 * mean is so many deviations. What four of five differ by from others is due to it by this part. Where less is, as where the subject hardly
 * moves, it has to be steadier and not faint. Weaker evidence is not believed, however dark the spot: small series of sharp texture have such
 * places, too.
 */
const CLEAR = { explained: 0.6, steady: 8, dark: 0.16 }
const DOUBTFUL = { explained: 0.3, steady: 15, dark: 0.22 }
/**
 * Few frames, or a place that is cut by the picture's edge, have to say it more clearly still, and of no large spot: what is out of focus by
 * more from frame to frame than it moves looks alike in as few, too.
 */
const FEW = { frames: 10, explained: 0.5, steady: 15, dark: 0.4, radius: 0.0125 }
type Limits = Pick<typeof CLEAR, 'explained' | 'steady' | 'dark'>
const MOSTLY = 0.9
/** Rounds before a first look, at which half of all that is enough, more before a second, and before each weighing anew and the shade. */
const LOOKS = [0, 6, 25] as const
/** So often are pairs weighed anew. */
const DOUBTS = 2
/** Specks are no larger than this part of the width. */
const MOST_RADIUS = 0.02
/** A speck's rim goes on so far beyond what is surely dark, in parts of its radius. */
const RIM = 0.6

/**
 * Finds dust on the sensor from a whole series, before its frames are moved: what lies still and equally dark in every frame, while the
 * subject moves beneath. Takes each frame once; memory does not grow with their number.
 */
export class DustFinder {
  private size = { width: 0, height: 0 }
  private count = 0
  private kept: { index: number; log: Int16Array }[] = []
  private every = 1

  /** Takes the next frame's luma, encoded, 0 … 1, some 500 to 1000 px wide; all frames must have one size. */
  add(luma: Plane): void {
    this.size = { width: luma.width, height: luma.height }
    const index = this.count++
    if (index % this.every !== 0) return
    const detail = narrowOf(lightLogs(luma)).data
    const log = new Int16Array(detail.length)
    for (let i = 0; i < log.length; i++) log[i] = Math.round(detail[i] / LOG_PART)
    this.kept.push({ index, log })
    if (this.kept.length <= MOST_KEPT) return
    this.every *= 2
    this.kept = this.kept.filter((frame) => frame.index % this.every === 0)
  }

  /**
   * What was found; `motions` lead from the reference to each frame that was added, in px of frames `width_px` wide, undefined for one
   * that lies nowhere on it; `unhalved_px` is how wide those were before they were halved to what was added. Fewer than five frames tell nothing.
   */
  finish(motions: (Similarity | undefined)[], width_px = this.size.width, unhalved_px = this.size.width): FoundDust {
    const { width, height } = this.size
    const scale = width / width_px
    const frames = this.kept.flatMap(({ index, log }) => {
      const motion = motions[index]
      return motion ? [{ log, motion: { ...motion, dx_px: motion.dx_px * scale, dy_px: motion.dy_px * scale } }] : []
    })
    if (frames.length < LEAST_FRAMES) return { width, height, unhalved_px, specks: [] }
    const field = new SensorField(frames, width, height)
    const specks: Speck[] = []
    for (const disc of candidates(field)) {
      // Of a large speck a part of its rim may stand out as well.
      if (specks.some(({ x, y, radius_px }) => Math.hypot(x - disc.x, y - disc.y) < 1.5 * radius_px + disc.radius_px)) continue
      const speck = speckOf(field, disc)
      if (speck) specks.push(speck)
    }
    return { width, height, unhalved_px, specks }
  }
}

/** Dark spots of what the sensor does, the darkest first, none within another; each of the size that suits it best. */
function candidates({ shade, step }: SensorField): Disc[] {
  const found: (Disc & { dark: number })[] = []
  let plane = shade
  for (let size = 0; size < SIZES; size++) {
    const fine = smooth(plane)
    const around = smooth(smooth(smooth(smooth(fine))))
    const dips = { ...fine, data: fine.data.map((value, i) => around.data[i] - value) }
    const peaks = peaksOf(dips).filter((at) => dips.data[at] > LEAST_DIP)
    for (const at of peaks.sort((a, b) => dips.data[b] - dips.data[a]).slice(0, MOST_CANDIDATES))
      found.push(fitted(shade, (at % dips.width) * 2 ** size, Math.floor(at / dips.width) * 2 ** size, MOST_RADIUS * shade.width))
    plane = reduce(plane)
  }
  const kept: (Disc & { dark: number })[] = []
  for (const disc of found.sort((a, b) => b.dark - a.dark))
    if (!kept.some(({ x, y, radius_px }) => Math.hypot(x - disc.x, y - disc.y) < Math.max(radius_px, disc.radius_px))) kept.push(disc)
  return kept.slice(0, MOST_CANDIDATES).map(({ x, y, radius_px }) => ({ x: x * step, y: y * step, radius_px: radius_px * step }))
}

/** A candidate looked at closely; a speck where every frame says so alone. */
function speckOf(field: SensorField, candidate: Disc): Speck | undefined {
  const part = partAround(field, candidate)
  const look = field.closely(part)
  const disc = { ...candidate, x: candidate.x - part.x, y: candidate.y - part.y }
  const [first, second, last] = LOOKS
  if (!isSteady(look.after(first), disc, 0.5, [CLEAR, DOUBTFUL])) return undefined
  const close = look.after(second)
  if (!isSteady(close, disc, 1, limitsOf(field, candidate))) return undefined
  const { x, y, radius_px } = centred({ ...part, data: close.shade }, disc)
  const seen = { x: part.x + x, y: part.y + y, radius_px }
  const { x: left, y: top, width, height } = partAround(field, seen)
  const again = field.closely({ x: left, y: top, width, height })
  for (let round = 0; round < DOUBTS; round++) {
    again.after(last)
    again.doubt()
  }
  const shade = shadeOf(again.after(last), { x: seen.x - left, y: seen.y - top, radius_px })
  const darkness = 1 - shade.reduce((least, value) => Math.min(least, value), 1)
  return { ...seen, darkness, left, top, width, height, shade }
}

/** What is looked at of a disc: its rim, and as much beside it. */
function partAround({ width, height }: SensorField, { x, y, radius_px }: Disc): Rectangle {
  const reach = Math.ceil(radius_px) + 2 * rimOf(radius_px) + 2
  const [left, top] = [Math.max(0, Math.floor(x) - reach), Math.max(0, Math.floor(y) - reach)]
  return { x: left, y: top, width: Math.min(width, Math.ceil(x) + reach + 1) - left, height: Math.min(height, Math.ceil(y) + reach + 1) - top }
}

const rimOf = (radius_px: number) => Math.max(2, Math.ceil(RIM * radius_px))

/** What a disc has to keep to: any of these. */
function limitsOf({ frames, width, height }: SensorField, { x, y, radius_px }: Disc): Limits[] {
  const whole = Math.min(x, y, width - 1 - x, height - 1 - y) > radius_px
  if (whole && frames.length > FEW.frames) return [CLEAR, DOUBTFUL]
  return radius_px > FEW.radius * width ? [] : [FEW]
}

/** Whether each frame alone says that a disc is dark, and equally so; `share` of the limits is enough. */
function isSteady({ width, height, byFrame, explained }: CloseUp, disc: Disc, share: number, limits: Limits[]): boolean {
  const dips = byFrame.map((data) => discOf({ width, height, data }, disc)).filter((dip) => !Number.isNaN(dip))
  if (dips.length < LEAST_FRAMES - 1) return false
  const mean = meanOf(dips)
  const spread = Math.sqrt(meanOf(dips.map((dip) => (dip - mean) ** 2)))
  const due = fifth(explained.filter((part) => !Number.isNaN(part)))
  if (fifth(dips) <= share * MOSTLY * mean) return false
  return limits.some(({ explained: least, steady, dark }) => due > share * least && mean > share * steady * spread && mean > share * dark)
}

/** What four of five have at the least. */
const fifth = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 5)]

/** What of the light comes through: what the sensor does, beside what that would be without the speck. */
function shadeOf({ width, height, shade, byFrame }: CloseUp, disc: Disc): Float32Array {
  const reach = disc.radius_px + rimOf(disc.radius_px)
  const samples = new Float32Array(3 * width * height)
  const known = new Uint8Array(width * height)
  for (let py = 0, i = 0; py < height; py++)
    for (let px = 0; px < width; px++, i++) {
      samples.fill(shade[i], 3 * i, 3 * i + 3)
      known[i] = Number(Math.hypot(px - disc.x, py - disc.y) > reach)
    }
  const even = membrane({ width, height, samples }, known)
  const taken = shade.map((value, i) => (known[i] ? 0 : value - even.samples[3 * i]))
  return evenedAround({ width, height, data: taken }, disc, noiseOf(byFrame, known)).map((value, i) => (known[i] ? 1 : Math.min(1, Math.exp(value))))
}

/** The square of what the mean of the frames may be wrong by, over what is not known. Half of them are pairs of the others. */
function noiseOf(byFrame: Float32Array[], known: Uint8Array): number {
  const squares: number[] = []
  for (let i = 0; i < known.length; i++) {
    const values = known[i] ? [] : byFrame.map((data) => data[i]).filter((value) => !Number.isNaN(value))
    if (values.length > 1) squares.push(deviation(values) ** 2 / values.length)
  }
  return squares.length > 0 ? meanOf(squares) : 0
}

/** Places of a plane that are higher than the eight around them, or what of these is in the plane. */
function peaksOf({ width, height, data }: Plane): number[] {
  const peaks: number[] = []
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const value = data[i]
      if (value <= 0) continue
      let highest = true
      for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1) && highest; v++)
        for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
          const other = v * width + u
          if (other !== i && (data[other] > value || (data[other] === value && other < i))) highest = false
        }
      if (highest) peaks.push(i)
    }
  return peaks
}
