import { compose, IDENTITY, invert, type Plane, type Similarity } from '../raster'
import { prepare, registerPair, type PairMotion, type Prepared } from './pair'
import { solve } from './solve'

/** A measured motion between two frames of a series, by their places in it. */
export interface Link {
  from: number
  to: number
  pair: PairMotion
}

export interface SeriesRegistration {
  /** Motion from the reference frame to each frame. */
  motions: Similarity[]
  /** Factor that brings each frame's brightness to the reference's. */
  gains: number[]
  /** Correlation with the frame before, 1 for the first. */
  correlations: number[]
}

/** Neighbours beyond the next one that are measured too, so that errors do not add up along the series. */
const REACHES = [1, 2, 4]

/**
 * Registers a series one frame after the other, in focus order, keeping only the few pyramids that later pairs need.
 * Every frame is measured against the ones 1, 2 and 4 before it, and all measurements are then reconciled.
 */
export class SeriesRegistrar {
  private readonly recent: Prepared[] = []
  private readonly links: Link[] = []
  private count = 0
  private lastStep: Similarity = IDENTITY

  constructor(private readonly width_px: number) {}

  /** Takes the luma of the next frame. */
  add(luma: Plane): void {
    const prepared = prepare(luma)
    const here = this.count++
    for (const reach of REACHES) {
      const from = here - reach
      if (from < 0) break
      const start = reach === 1 ? this.lastStep : this.chained(from, here)
      const pair = registerPair(this.recent[this.recent.length - reach], prepared, this.width_px, start)
      this.links.push({ from, to: here, pair })
      // A bump in one step says nothing about the next, so only breathing (scale) is carried over as a first guess.
      if (reach === 1) this.lastStep = { ...IDENTITY, scale: pair.motion.scale }
    }
    this.recent.push(prepared)
    if (this.recent.length > REACHES.at(-1)!) this.recent.shift()
  }

  /** All motions relative to frame `reference`. */
  finish(reference: number): SeriesRegistration {
    const { motions, gains } = reconcile(this.links, this.count, reference)
    const correlations = Array.from({ length: this.count }, (_, k) => this.step(k)?.pair.correlation ?? 1)
    return { motions, gains, correlations }
  }

  private step(to: number): Link | undefined {
    return this.links.find((link) => link.to === to && link.from === to - 1)
  }

  private chained(from: number, to: number): Similarity {
    let motion = IDENTITY
    for (let k = from + 1; k <= to; k++) motion = compose(this.step(k)!.pair.motion, motion)
    return motion
  }
}

/**
 * The motions that agree best with all links: chained first, then corrected by least squares on what the links still
 * disagree by, to first order in the small corrections (a pose graph; Lu & Milios, 1997).
 */
export function reconcile(links: Link[], count: number, reference: number): { motions: Similarity[]; gains: number[] } {
  const steps = links.filter((link) => link.to === link.from + 1)
  const motions: Similarity[] = [IDENTITY]
  const logGains = [0]
  for (let k = 1; k < count; k++) {
    const step = steps.find((link) => link.to === k)!
    motions.push(compose(step.pair.motion, motions[k - 1]))
    logGains.push(logGains[k - 1] + Math.log(step.pair.gain))
  }
  for (let round = 0; round < 3; round++) {
    // What a link measures beyond what the motions say, as (log scale, rotation, dx, dy).
    const gaps = links.map(({ from, to, pair }) => {
      const gap = compose(pair.motion, invert(compose(motions[to], invert(motions[from]))))
      return [Math.log(gap.scale), gap.rotation_rad, gap.dx_px, gap.dy_px]
    })
    const corrections = [0, 1, 2, 3].map((component) =>
      spread(
        links,
        gaps.map((gap) => gap[component]),
        count,
      ),
    )
    motions.forEach((motion, k) => {
      const [scale, rotation_rad, dx_px, dy_px] = corrections.map((values) => values[k])
      motions[k] = compose({ scale: Math.exp(scale), rotation_rad, dx_px, dy_px }, motion)
    })
  }
  const gainGaps = links.map(({ from, to, pair }) => Math.log(pair.gain) - (logGains[to] - logGains[from]))
  spread(links, gainGaps, count).forEach((correction, k) => (logGains[k] += correction))
  const toReference = invert(motions[reference])
  return {
    motions: motions.map((motion) => compose(motion, toReference)),
    gains: logGains.map((value) => Math.exp(value - logGains[reference])),
  }
}

/** Values v, v[0] = 0, that make v[to] − v[from] agree with each link's gap, trusting well correlated links more. */
function spread(links: Link[], gaps: number[], count: number): number[] {
  const rows = Array.from({ length: count }, () => new Float64Array(count + 1))
  rows[0][0] = 1
  links.forEach(({ from, to, pair }, i) => {
    const weight = 1 / (1.0001 - Math.min(Math.max(pair.correlation, 0), 1)) / (to - from)
    for (const [row, sign] of [
      [to, 1],
      [from, -1],
    ]) {
      rows[row][to] += weight * sign
      rows[row][from] -= weight * sign
      rows[row][count] += weight * sign * gaps[i]
    }
  })
  return [...(solve(rows) ?? new Float64Array(count))]
}
