import { apply, compose, invert, type Plane, type Similarity } from '../raster'
import { median, quantile } from '../statistics'
import { BlurFit, BLURS_px, type Energies } from './blurFit'
import { CELL_px, type FrameFacts } from './frameFacts'

/** Parts of the picture, seen as the middle frame sees it. */
export const PARTS = { across: 36, down: 24 }

/** Where a part is sharp: in some frame (or it shows nothing), or in none, and then where it would be. */
export type Sharpness = 'sharp' | 'near' | 'far' | 'between'

export interface Unsharp {
  /** Row by row, `PARTS.across` × `PARTS.down`. */
  parts: Sharpness[]
  /** Frame whose view the parts are in, as an index into the frames given. */
  seenFrom: number
  /** How many more frames at the usual step would reach most of what lies beyond each end. */
  beyond: { near: number; far: number }
  /** Blur, in px of the frames as surveyed, that one usual step makes; undefined where too little shows it. */
  blurPerStep_px?: number
}

/**
 * Blur that shows, as the diameter of a disc in px of frames 640 px wide. Between two frames it is twice the usual tolerance
 * (0.03 mm of 36 mm), and slices that leave it do not touch. Beyond the ends, where the fit sees one side only, it is more;
 * in smaller frames less, as far as their own px can tell.
 */
export const BETWEEN_px = 1.25
const beyondFor_px = (width_px: number) => (2 * Math.min(640, Math.max(400, width_px))) / 640
/** A part is called unsharp where it is likelier than this. */
const LIKELY = 0.5
/** A part's own word counts as much as that of so many neighbours. */
const OWN_WEIGHT = 3
/** It must follow the focus: so much better than a line that stays level, and with so much rise, as a logarithm. */
const TELLS = { gain: 9, rise: Math.log(1.25) }
/** Misfit below which fits do not differ: the form of the fall is no better known. */
const MISFIT = 0.04
/** The farther beyond an end, the rarer: likelihood falls by e in so many steps. */
const RARER_steps = 3
/** More frames tell nothing more; of longer series every second, third, … is looked at. */
const MOST_FRAMES = 28
/** And its sharpness changes by this, as a logarithm: the focus passes through it. */
const PASSES = 0.4
/** A peak farther than this from both ends, in steps, is seen from both sides. */
const INSIDE = 0.6
/** So many parts that peak well inside tell how much blur a step makes. */
const LEAST_INSIDE = 8
/** Without them it may be any of these. */
const ANY_BLUR_px: [number, number] = [0.8, 2.8]
/** Parts differ in their blur a step by this factor: the fall is not quite the same for all textures. */
const SPREAD = 1.5

/**
 * Which parts of the picture no frame shows sharp. The energies of each part are fitted with the fall of sharpness by blur
 * (`BlurFit`): where the fitted peak lies beyond an end, or between two frames, by more blur than shows, the part is
 * unsharp, however little of its rise was seen. `frames` run from near to far; `places` are theirs in usual steps, `motions`
 * those from the first frame to each. At least three frames.
 */
export function unsharpParts(frames: FrameFacts[], places: number[], motions: Similarity[]): Unsharp {
  const seenFrom = Math.floor(frames.length / 2)
  const chosen = thinned(frames.length)
  // Places in steps of the frames looked at.
  const unit = (places.at(-1)! - places[0]) / (chosen.length - 1) || 1
  const at = (k: number) => (places[k] - places[0]) / unit
  const sampler = new PartSampler(frames[0].luma, motions, seenFrom)
  const all = Array.from({ length: PARTS.across * PARTS.down }, (_, part) => sampler.energies(frames, chosen, part))
  const seen = all.flatMap((energies, part) => (shownOften(energies) ? [part] : []))
  const noise = [0, 1].map((band) =>
    quantile(
      seen.map((part) => lowest(all[part][band])),
      0.02,
    ),
  )
  const chosenAt = chosen.map(at)

  const wide = new BlurFit(chosenAt, BLURS_px, noise)
  const inside = seen
    .filter((_, k) => k % 4 === 0)
    .flatMap((part) => {
      const { peak, blur_px } = bestOf(wide, wide.misfit(all[part]))
      return rise(all[part][0]) > PASSES && peak > INSIDE && peak < chosenAt.at(-1)! - INSIDE ? [blur_px] : []
    })
  const blur_px = inside.length >= LEAST_INSIDE ? median(inside) : undefined
  const [least, most] = blur_px ? [blur_px / SPREAD, blur_px * SPREAD] : ANY_BLUR_px
  const narrow = new BlurFit(
    chosenAt,
    BLURS_px.filter((value) => value >= least && value <= most),
    noise,
  )
  const beyond_px = beyondFor_px(frames[0].luma.width)
  const everyPlace = frames.map((_, k) => at(k))
  const judgements = all.map((energies) => (shownOften(energies) ? judged(narrow, energies, everyPlace, beyond_px) : undefined))
  const parts: Sharpness[] = all.map(() => 'sharp')
  const beyond: Record<'near' | 'far', number[]> = { near: [], far: [] }
  judgements.forEach((judgement, part) => {
    if (!judgement || amongNeighbours(judgements, part) < LIKELY) return
    parts[part] = judgement.where
    if (judgement.where !== 'between') beyond[judgement.where].push(judgement.away * unit)
  })
  const framesFor = (away: number[]) => (away.length > 0 ? Math.max(1, Math.ceil(quantile(away, 0.8))) : 0)
  return {
    parts,
    seenFrom,
    beyond: { near: framesFor(beyond.near), far: framesFor(beyond.far) },
    ...(blur_px !== undefined && { blurPerStep_px: blur_px / unit }),
  }
}

/** How likely a part is sharp in no frame, and where it would be; `away` in steps from the end. */
interface Judgement {
  likely: number
  where: Exclude<Sharpness, 'sharp'>
  away: number
}

/** How likely a part is unsharp, with what its neighbours say: depth hardly ever changes with every part. */
function amongNeighbours(judgements: (Judgement | undefined)[], part: number): number {
  const [x, y] = [part % PARTS.across, Math.floor(part / PARTS.across)]
  let [sum, count] = [0, 0]
  for (let dy = -1; dy <= 1; dy++) {
    for (let dx = -1; dx <= 1; dx++) {
      const [u, v] = [x + dx, y + dy]
      if (u < 0 || v < 0 || u >= PARTS.across || v >= PARTS.down) continue
      const near = judgements[v * PARTS.across + u]
      if (!near) continue
      const weight = dx === 0 && dy === 0 ? OWN_WEIGHT : 1
      sum += weight * near.likely
      count += weight
    }
  }
  return sum / count
}

/** What a part of the picture says itself; nothing where it does not follow the focus. */
function judged(fit: BlurFit, energies: Energies, places: number[], beyond_px: number): Judgement | undefined {
  const misfit = fit.misfit(energies)
  const least = lowest(misfit)
  const count = energies.reduce((sum, energy) => sum + energy.filter((value) => !Number.isNaN(value)).length, 0)
  const variance = Math.max(MISFIT ** 2, least / Math.max(1, count - 5))
  const level = energies.reduce((sum, energy) => sum + levelMisfit(energy), 0)
  if ((level - least) / variance < TELLS.gain || rise(energies[0]) < TELLS.rise) return undefined
  const [first, last] = [places[0], places.at(-1)!]
  const unsharp = new Float64Array(fit.peaks.length)
  let whole = 0
  for (let p = 0, i = 0; p < fit.peaks.length; p++) {
    const peak = fit.peaks[p]
    const away = places.reduce((near, place) => Math.min(near, Math.abs(place - peak)), Infinity)
    const prior = Math.exp(-Math.max(0, first - peak, peak - last) / RARER_steps)
    for (const blur_px of fit.blurs_px) {
      const likelihood = prior * Math.exp((least - misfit[i++]) / 2 / variance)
      whole += likelihood
      if (away * blur_px > (peak < first || peak > last ? beyond_px : BETWEEN_px)) unsharp[p] += likelihood
    }
  }
  const likely = unsharp.reduce((sum, value) => sum + value, 0) / whole
  const peak = fit.peaks[unsharp.reduce((best, value, p) => (value > unsharp[best] ? p : best), 0)]
  if (peak < first) return { likely, where: 'near', away: first - peak }
  return peak > last ? { likely, where: 'far', away: peak - last } : { likely, where: 'between', away: 0 }
}

function bestOf(fit: BlurFit, misfit: Float64Array): { peak: number; blur_px: number } {
  const best = misfit.reduce((lowestAt, value, i) => (value < misfit[lowestAt] ? i : lowestAt), 0)
  return { peak: fit.peaks[Math.floor(best / fit.blurs_px.length)], blur_px: fit.blurs_px[best % fit.blurs_px.length] }
}

/** Indices of at most `MOST_FRAMES` frames, evenly, both ends among them. */
function thinned(count: number): number[] {
  const kept = Math.min(count, MOST_FRAMES)
  return Array.from({ length: kept }, (_, k) => Math.round((k * (count - 1)) / Math.max(1, kept - 1)))
}

/** Reads the energies of a part in every frame, where the picture's motion has taken it. */
class PartSampler {
  private readonly fromMiddle: Similarity[]

  constructor(
    private readonly size: { width: number; height: number },
    motions: Similarity[],
    seenFrom: number,
  ) {
    const back = invert(motions[seenFrom])
    this.fromMiddle = motions.map((motion) => compose(motion, back))
  }

  energies(frames: FrameFacts[], chosen: number[], part: number): Energies {
    const { width, height } = this.size
    const x = (((part % PARTS.across) + 0.5) * width) / PARTS.across - width / 2
    const y = ((Math.floor(part / PARTS.across) + 0.5) * height) / PARTS.down - height / 2
    const at = chosen.map((k) => {
      const [u, v] = apply(this.fromMiddle[k], x, y)
      return [u + width / 2, v + height / 2]
    })
    return (['fine', 'coarse'] as const).map((band) =>
      Float64Array.from(chosen, (k, n) => {
        const [u, v] = at[n]
        return u < 0 || v < 0 || u > width || v > height ? NaN : cellAt(frames[k].detail[band], u / CELL_px - 0.5, v / CELL_px - 0.5)
      }),
    )
  }
}

/** Between four cells, linearly; beyond the outermost as there. */
function cellAt({ data, width, height }: Plane, x: number, y: number): number {
  const [left, top] = [Math.min(width - 1, Math.max(0, x)), Math.min(height - 1, Math.max(0, y))]
  const [x0, y0] = [Math.floor(left), Math.floor(top)]
  const [x1, y1] = [Math.min(width - 1, x0 + 1), Math.min(height - 1, y0 + 1)]
  const [fx, fy] = [left - x0, top - y0]
  const row = (y: number) => data[y * width + x0] * (1 - fx) + data[y * width + x1] * fx
  return row(y0) * (1 - fy) + row(y1) * fy
}

const shownOften = ([energy]: Energies) => energy.filter((value) => !Number.isNaN(value)).length >= 3

const lowest = (values: Float64Array) => values.reduce((low, value) => (value < low ? value : low), Infinity)

function rise(energy: Float64Array): number {
  const known = energy.filter((value) => !Number.isNaN(value))
  return Math.log(Math.max(...known) / Math.max(1e-12, Math.min(...known)))
}

/** Sum of squared differences of the logarithms from their mean. */
function levelMisfit(energy: Float64Array): number {
  const logs = [...energy].filter((value) => !Number.isNaN(value)).map((value) => Math.log(Math.max(1e-12, value)))
  const mean = logs.reduce((sum, value) => sum + value, 0) / logs.length
  return logs.reduce((sum, value) => sum + (value - mean) ** 2, 0)
}
