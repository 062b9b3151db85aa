import { apply, compose, invert, type Plane, type Similarity } from '../../raster'
import { deviation, mean, quantile } from '../../statistics'
import { discPasses } from '../disc'

/** How much blur the frames of a run say that one usual step of the focus makes. */
export interface BlurStep {
  /** Diameter of the disc that a point becomes, as a part of the picture's width. */
  ofWidth: number
  /** What it may be off by, as a part of it: one standard deviation. */
  spread: number
}

/** Side of a part that is looked at, and how far apart their middles lie, in px. */
const SIDE_px = 32
const APART_px = 32
/** Waves that are looked for in a part: cycles a px, each in so many directions. Coarser ones see too little blur, finer ones mostly noise. */
const CYCLES = [0.08, 0.11, 0.15, 0.2, 0.27]
const DIRECTIONS = 4
/** Blurs a step that are tried, in px, each so many times the one before. */
const LEAST_px = 0.12
const FINER = 1.14
const TRIED = 38
/** Places of the focus that are tried: so many a step. */
const PER_STEP = 3
/** How thick the surface of a part may be, in steps: one that slants is sharp over several depths. */
const THICKNESSES = [0, 0.5, 1.1]
/** Depths within it that are looked at, in parts of it. */
const DEPTHS = [-0.8, -0.4, 0, 0.4, 0.8]
/** More frames tell nothing more. */
const MOST_FRAMES = 28
const LEAST_FRAMES = 5
/** A part takes part where its waves rise and fall so much, stand so far above noise, and follow the law of the disc so well. */
const CHANGES = 1.5
const ABOVE_NOISE = 6
const MOST_LEFT = 0.008
/** Waves of so many kinds have to: they agree on one blur only where it is right. */
const LEAST_BANDS = 2
/** Its place of focus lies so far within the run, in steps: it is seen from both sides. */
const INSIDE = 0.75
const LEAST_PARTS = 16
/** Figures that may be off by more than this part are not told. */
const MOST_SPREAD = 0.08
/** Groups of parts, each of which is asked by itself: how far their answers lie apart tells how sure all of them are. */
const GROUPS = 8

/** A part's waves: by cycles, their energy in each frame. */
type Waves = Float64Array[]

/**
 * How much blur a step makes, from a run in focus order: each part of the picture is sharp at a place of its own, and weaker at others by
 * what a disc takes from its waves, 2 J₁(x) / x with x = π c k (Goodman, *Introduction to Fourier Optics*), where blur c grows evenly with
 * the way of the focus. Whatever a part shows, all its waves have to agree on one c. Undefined where too little tells, or tells different things.
 * @param motions from the first frame to each, in px about the middle; `places` are the frames' own in usual steps.
 */
export function blurStepOf(frames: Plane[], motions: Similarity[], places: number[]): BlurStep | undefined {
  if (frames.length < LEAST_FRAMES) return undefined
  const chosen = thinned(frames.length)
  // Of long series every second, third, … frame is looked at, in steps of their own: else ever more places would have to be tried.
  const span = places.at(-1)! - places[0]
  const unit = span > 2 * chosen.length ? span / (chosen.length - 1) : 1
  const at = chosen.map((k) => (places[k] - places[0]) / unit)
  const seen = partsIn(
    chosen.map((k) => frames[k]),
    chosen.map((k) => motions[k]),
  )
  const noise = CYCLES.map((_, b) =>
    quantile(
      seen.map((waves) => Math.min(...waves[b])),
      0.05,
    ),
  )
  const blurs_px = Array.from({ length: TRIED }, (_, k) => LEAST_px * FINER ** k)
  const law = new Law(at, blurs_px)
  const telling = seen.flatMap((waves) => law.leftBy(waves, noise) ?? [])
  if (telling.length < LEAST_PARTS) return undefined
  const of = (parts: Float64Array[]) => lowestOf(sumOf(parts), blurs_px)
  const blur_px = of(telling)
  const groups = Array.from({ length: GROUPS }, (_, g) => of(telling.filter((_, k) => k % GROUPS === g)))
  const told = groups.filter((each): each is number => each !== undefined)
  if (blur_px === undefined || told.length < GROUPS) return undefined
  const spread = deviation(told.map((each) => Math.log(each))) / Math.sqrt(GROUPS)
  return spread > MOST_SPREAD ? undefined : { ofWidth: blur_px / unit / frames[0].width, spread }
}

/** Indices of at most `MOST_FRAMES` frames, evenly, both ends among them. */
function thinned(count: number): number[] {
  const kept = Math.min(count, MOST_FRAMES)
  return Array.from({ length: kept }, (_, k) => Math.round((k * (count - 1)) / Math.max(1, kept - 1)))
}

/** Parts that all frames show, where the picture's motion has taken them. */
function partsIn(frames: Plane[], motions: Similarity[]): Waves[] {
  const { width, height } = frames[0]
  const back = invert(motions[motions.length >> 1])
  const fromMiddle = motions.map((motion) => compose(motion, back))
  const parts: Waves[] = []
  for (let y = SIDE_px / 2; y <= height - SIDE_px / 2; y += APART_px)
    for (let x = SIDE_px / 2; x <= width - SIDE_px / 2; x += APART_px) {
      const corners = fromMiddle.map((motion) => {
        const [u, v] = apply(motion, x - width / 2, y - height / 2)
        return [Math.round(u + width / 2 - SIDE_px / 2), Math.round(v + height / 2 - SIDE_px / 2)]
      })
      if (corners.some(([u, v]) => u < 0 || v < 0 || u + SIDE_px > width || v + SIDE_px > height)) continue
      const waves = CYCLES.map(() => new Float64Array(frames.length))
      frames.forEach((frame, k) => energiesAt(frame, corners[k][0], corners[k][1]).forEach((energy, b) => (waves[b][k] = energy)))
      parts.push(waves)
    }
  return parts
}

/** A Hann window, so that edges of a part show no waves of their own; and the waves under it, cosine and sine one after the other. */
const WINDOW = Float64Array.from({ length: SIDE_px }, (_, k) => Math.sin((Math.PI * (k + 0.5)) / SIDE_px) ** 2)
const WAVES = CYCLES.map((cycles) =>
  Array.from({ length: DIRECTIONS }, (_, d) => {
    const angle = (Math.PI * d) / DIRECTIONS
    const phase = (i: number) => 2 * Math.PI * cycles * (Math.cos(angle) * (i % SIDE_px) + Math.sin(angle) * Math.floor(i / SIDE_px))
    const under = (of: (phase: number) => number) =>
      Float32Array.from({ length: SIDE_px ** 2 }, (_, i) => WINDOW[i % SIDE_px] * WINDOW[Math.floor(i / SIDE_px)] * of(phase(i)))
    return [under(Math.cos), under(Math.sin)]
  }),
)

const part = new Float32Array(SIDE_px ** 2)

/** Energy of each kind of wave in a part, as a part of its brightness squared: flicker does not count. */
function energiesAt({ data, width }: Plane, left: number, top: number): number[] {
  let sum = 0
  for (let v = 0, i = 0; v < SIDE_px; v++)
    for (let u = 0; u < SIDE_px; u++, i++) {
      part[i] = data[(top + v) * width + left + u]
      sum += part[i]
    }
  const middle = sum / part.length
  for (let i = 0; i < part.length; i++) part[i] -= middle
  const share = 1 / Math.max(1e-6, middle ** 2)
  return WAVES.map((directions) => share * directions.reduce((energy, [cosine, sine]) => energy + energyUnder(cosine, sine), 0))
}

function energyUnder(cosine: Float32Array, sine: Float32Array): number {
  let [re, im] = [0, 0]
  for (let i = 0; i < SIDE_px ** 2; i++) {
    const value = part[i]
    re += value * cosine[i]
    im += value * sine[i]
  }
  return re * re + im * im
}

/** What a disc leaves of the energy of a wave, read from a table: it is asked for half a million times. */
const TABLE = { perUnit: 64, most: 60 }
const PASSED = Float32Array.from({ length: TABLE.perUnit * TABLE.most + 1 }, (_, k) => discPasses(k / TABLE.perUnit) ** 2)
const passedOf = (x: number) => (x >= TABLE.most ? 0 : PASSED[Math.round(x * TABLE.perUnit)])

/** What a disc leaves of the energy of each wave, for every place of the focus, thickness and blur that is tried. */
class Law {
  /** Places of the focus that are tried, each with every thickness. */
  private readonly peaks: number[] = []
  /** By place, blur, wave and frame, in that order. */
  private readonly passed: Float32Array

  constructor(
    private readonly places: number[],
    private readonly blurs_px: number[],
  ) {
    const [first, last] = [Math.min(...places), Math.max(...places)]
    const tried: { peak: number; depths: number[] }[] = []
    for (let peak = first; peak <= last; peak += 1 / PER_STEP)
      for (const thickness of THICKNESSES) tried.push({ peak, depths: thickness === 0 ? [peak] : DEPTHS.map((part) => peak + part * thickness) })
    this.peaks = tried.map(({ peak }) => peak)
    this.passed = new Float32Array(tried.length * blurs_px.length * CYCLES.length * places.length)
    let at = 0
    for (const { depths } of tried)
      for (const blur_px of blurs_px)
        for (const cycles of CYCLES)
          for (const place of places) this.passed[at++] = mean(depths.map((depth) => passedOf(Math.PI * blur_px * Math.abs(place - depth) * cycles)))
  }

  /**
   * What the law leaves of a part's waves for each blur, 0 … 1, where its place of focus serves best; undefined where the part does not follow
   * the focus, or is sharp at an end of the run.
   */
  leftBy(waves: Waves, noise: number[]): Float64Array | undefined {
    const { places, blurs_px, peaks, passed } = this
    const counted = CYCLES.flatMap((_, b) => {
      const [least, most] = [Math.min(...waves[b]), Math.max(...waves[b])]
      return most > ABOVE_NOISE * noise[b] && most > CHANGES * least ? [b] : []
    })
    if (counted.length < LEAST_BANDS) return undefined
    const above = waves.map((energy, b) => energy.map((value) => Math.max(0, value - noise[b])))
    const whole = above.map((energy) => energy.reduce((sum, value) => sum + value * value, 0))
    const left = new Float64Array(blurs_px.length).fill(Infinity)
    const focus = new Float64Array(blurs_px.length)
    for (let p = 0; p < peaks.length; p++)
      for (let w = 0; w < blurs_px.length; w++) {
        let sum = 0
        for (const b of counted) {
          const from = ((p * blurs_px.length + w) * CYCLES.length + b) * places.length
          const energy = above[b]
          let [product, square] = [0, 0]
          for (let k = 0; k < places.length; k++) {
            const law = passed[from + k]
            product += law * energy[k]
            square += law * law
          }
          sum += 1 - (product * product) / (square * whole[b])
        }
        if (sum >= left[w] * counted.length) continue
        left[w] = sum / counted.length
        focus[w] = peaks[p]
      }
    const best = left.reduce((least, value, w) => (value < left[least] ? w : least), 0)
    const inside = focus[best] > peaks[0] + INSIDE && focus[best] < peaks.at(-1)! - INSIDE
    return inside && left[best] < MOST_LEFT ? left : undefined
  }
}

/** What all parts together leave. */
const sumOf = (parts: Float64Array[]): Float64Array => Float64Array.from(parts[0] ?? [], (_, w) => mean(parts.map((left) => left[w])))

/** The blur that leaves least, between those that were tried by a parabola; undefined at either end. */
function lowestOf(left: Float64Array, blurs_px: number[]): number | undefined {
  const best = left.reduce((least, value, w) => (value < left[least] ? w : least), 0)
  if (best === 0 || best >= left.length - 1) return undefined
  const [before, here, after] = [left[best - 1], left[best], left[best + 1]]
  const shift = (before - after) / (2 * (before - 2 * here + after))
  return blurs_px[best] * FINER ** shift
}
