import { reduce, smooth, type Plane, type Rectangle, type Similarity } from '../raster'
import { Planes, WasmKernels, type Kernels } from '../raster/kernels'
import { CloseLook } from './closeLook'
import { fitted, type Disc } from './disc'
import { SensorField } from './field'
import { Narrowing } from './narrowing'
import { lightLogs, LOG_PART } from './seen'

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
 * A speck takes away so much at the least, as a logarithm; it explains so much of what frames differ by there, and the frames, each alone,
 * say so as steadily as this. What else looks like one explains up to a quarter and is half as steady at the most.
 */
const LEAST = { dark: 0.16, explained: 0.35, steady: 45 }
/** A first look takes every second place and each pair of frames once, and half of all that is enough; the last takes all of them, and goes on where a few rounds come near. */
const FIRST = { rounds: 3, every: 2, share: 0.5, told: 'once' } as const
const LAST = { rounds: 12, every: 1, share: 1, told: 'all' } as const
const NEARLY = { rounds: 3, share: 0.8 }
/** Where near frames tell enough, only they tell the shade. */
const NEAR = { ...LAST, told: 'near' } as const
/** What has less than this part of the least after one round has no more later. */
const FAINT = 0.25
/** Specks are no larger than this part of the width. */
const MOST_RADIUS = 0.02
/** A disc's middle, in parts of its radius. */
const INNER = 0.6
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

  constructor(private readonly kernels: Kernels = new WasmKernels()) {}

  /** Takes the next frame's luma, encoded, 0 … 1, some 500 to 1000 px wide; all frames must have one size. */
  add(luma: Plane): void {
    this.size = { width: luma.width, height: luma.height }
    const index = this.count++
    if (index % this.every !== 0) return
    const detail = new Narrowing(new Planes(this.kernels, luma.width, luma.height)).of(lightLogs(luma)).data
    const log = new Int16Array(detail.length)
    for (let i = 0; i < log.length; i++) log[i] = Math.floor(detail[i] * (1 / LOG_PART) + 0.5)
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
    const field = new SensorField(frames, width, height, this.kernels)
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

/** A candidate looked at closely; a speck where the frames say so. */
function speckOf(field: SensorField, candidate: Disc): Speck | undefined {
  const first = lookAt(field, candidate, FIRST)
  const found = first && lookAt(field, first.disc, LAST)
  if (!found) return undefined
  const last = lookAt(field, found.disc, NEAR) ?? found
  const { rings, part } = last.look
  const { x: left, y: top, width, height } = part
  const shade = last.look.form()
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) shade[i] = Math.min(1, Math.exp(rings.at(left + x, top + y) + shade[i]))
  const darkness = 1 - shade.reduce((least, value) => Math.min(least, value), 1)
  return { ...last.disc, darkness, left, top, width, height, shade }
}

/** A disc looked at; undefined where that shows no speck by this share of the limits. */
function lookAt(field: SensorField, disc: Disc, { rounds, every, share, told }: typeof FIRST | typeof LAST | typeof NEAR) {
  const part = partAround(field, disc)
  const look = new CloseLook(field, part, disc, disc.radius_px + rimOf(disc.radius_px) + 1, every, told)
  const { rings } = look
  const darkness = () => rings.level(INNER * disc.radius_px)
  look.settle(1)
  if (darkness() < FAINT * LEAST.dark) return undefined
  const radius_px = () => rings.halfRadius(darkness())
  const isOne = (least: number) => {
    if (darkness() < least * LEAST.dark || radius_px() > MOST_RADIUS * field.width) return false
    const { explained, steady } = look.evidence()
    return explained >= least * LEAST.explained && steady >= least * LEAST.steady
  }
  const few = Math.min(rounds, NEARLY.rounds)
  look.settle(few - 1)
  if (!isOne(Math.min(share, NEARLY.share))) return undefined
  if (few < rounds) {
    look.settle(rounds - few)
    if (!isOne(share)) return undefined
  }
  return { look, disc: { x: rings.x, y: rings.y, radius_px: radius_px() } }
}

/** What is looked at of a disc: its rim, and as much beside it. */
function partAround({ width, height }: SensorField, { x, y, radius_px }: Disc): Rectangle {
  const reach = Math.ceil(radius_px) + 2 * rimOf(radius_px) + 2
  const [left, top] = [Math.max(0, Math.floor(x) - reach), Math.max(0, Math.floor(y) - reach)]
  return { x: left, y: top, width: Math.min(width, Math.ceil(x) + reach + 1) - left, height: Math.min(height, Math.ceil(y) + reach + 1) - top }
}

const rimOf = (radius_px: number) => Math.max(2, Math.ceil(RIM * radius_px))

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
