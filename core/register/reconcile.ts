import { compose, IDENTITY, invert, type Similarity } from '../raster'
import { weightOf, type Link } from './link'
import { withoutParallax } from './parallax'
import { solve } from './solve'

const ROUNDS = 4

/**
 * The motions that agree best with all links: chained first, from the reference on, then corrected by least squares on
 * what the links still disagree by, to first order in the small corrections (a pose graph; Lu & Milios, 1997). Each is the
 * motion of what the frame is focused on: where the camera was pushed aside, other depths moved otherwise (see Parallax).
 * Frames that no link leads to keep the identity.
 */
export function reconcile(
  links: Link[],
  count: number,
  reference: number,
  depthsOf: (motions: Similarity[]) => number[] = () => links.map(({ from, to }) => (from + to) / 2),
): { motions: Similarity[]; gains: number[] } {
  const chained = chain(links, count, reference)
  const { logGains } = chained
  const toReference = invert(chained.motions[reference])
  const motions = chained.motions.map((motion) => compose(motion, toReference))
  const spread = (gaps: number[]) => spreadOver(links, gaps, count, reference)
  const depths = depthsOf(motions)
  let slope = 0
  for (let round = 0; round < ROUNDS; round++) {
    // What a link measures beyond what the motions say, as (log scale, rotation, dx, dy).
    const gaps = links.map(({ from, to, pair }) => {
      const gap = compose(pair.motion, invert(compose(motions[to], invert(motions[from]))))
      return [Math.log(gap.scale), gap.rotation_rad, gap.dx_px, gap.dy_px]
    })
    const [scales, turns, ...shifts] = [0, 1, 2, 3].map((component) => gaps.map((gap) => gap[component]))
    const pushed = withoutParallax(links, depths, motions, shifts, spread, { slope, reference })
    slope = pushed.slope
    const corrections = [scales, turns, ...pushed.shifts].map(spread)
    motions.forEach((motion, k) => {
      const [scale, rotation_rad, dx_px, dy_px] = corrections.map((values) => values[k])
      motions[k] = compose({ scale: Math.exp(scale), rotation_rad, dx_px, dy_px }, motion)
    })
  }
  const gainGaps = links.map(({ from, to, pair }) => Math.log(pair.gain) - (logGains[to] - logGains[from]))
  spread(gainGaps).forEach((correction, k) => (logGains[k] += correction))
  return { motions, gains: logGains.map((value) => Math.exp(value - logGains[reference])) }
}

/** Motions and gains from link to link, the shortest way from the reference. */
function chain(links: Link[], count: number, reference: number): { motions: Similarity[]; logGains: number[] } {
  const motions = Array.from({ length: count }, () => IDENTITY)
  const logGains = new Array<number>(count).fill(0)
  const reached = new Set([reference])
  for (let grown = true; grown;) {
    grown = false
    // Short links first: they are the surest.
    for (const { from, to, pair } of [...links].sort((a, b) => a.to - a.from - (b.to - b.from))) {
      if (reached.has(from) === reached.has(to)) continue
      const forward = reached.has(from)
      const [known, next] = forward ? [from, to] : [to, from]
      motions[next] = compose(forward ? pair.motion : invert(pair.motion), motions[known])
      logGains[next] = logGains[known] + (forward ? 1 : -1) * Math.log(pair.gain)
      reached.add(next)
      grown = true
      break
    }
  }
  return { motions, logGains }
}

/** Values v, v[reference] = 0, that make v[to] − v[from] agree with each link's gap, trusting well correlated links more. */
function spreadOver(links: Link[], gaps: number[], count: number, reference: number): number[] {
  const rows = Array.from({ length: count }, () => new Float64Array(count + 1))
  rows[reference][reference] = 1
  links.forEach(({ from, to, pair }, i) => {
    const weight = weightOf({ from, to, pair })
    for (const [row, sign] of [
      [to, 1],
      [from, -1],
    ]) {
      rows[row][to] += weight * sign
      rows[row][from] -= weight * sign
      rows[row][count] += weight * sign * gaps[i]
    }
  })
  // A frame without links stays where it is.
  rows.forEach((row, k) => (row[k] === 0 ? (row[k] = 1) : undefined))
  return [...(solve(rows) ?? new Float64Array(count))]
}
