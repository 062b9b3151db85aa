import { apply, compose, createBend, invert, type Bend, type Similarity } from '../../raster'
import type { LocalMotion } from './measure'
import { corners, neighbours, place, type Net } from './net'

/** What moved on its own between two frames of a series, by their places in it, beside the motion that was measured between them. */
export interface LocalLink {
  from: number
  to: number
  motion: Similarity
  local: LocalMotion
}

/** How far a part usually lies from where it belongs, and how much farther than the part beside it, as parts of the width. */
const USUAL = 0.01
const USUAL_BETWEEN = 0.003
/** So little apart, in px of what registration looks at, parts lie mostly because blur differs: half of it is believed. */
const DOUBTFUL_px = 0.5
const SWEEPS = 120
/** Steps are taken longer by this: the way along a series is long (successive over-relaxation; Young, 1954). */
const LONGER = 1.6
/** Below this, in px, a frame is not bent. */
const LEAST_px = 0.02

/**
 * How each frame is bent so that its parts lie where they lie in the others, as well as all links can agree (least squares,
 * each by its certainty), the reference not at all. `motions` lead from the reference to each frame; where a frame has nothing
 * certain to say, it is held by what lies beside it and by rest.
 */
export function reconcileLocal(
  links: LocalLink[],
  motions: Similarity[],
  reference: number,
  { width, height }: { width: number; height: number },
): (Bend | undefined)[] {
  if (links.length === 0) return motions.map(() => undefined)
  const { net } = links[0].local
  const terms: Term[][] = motions.map(() => [])
  for (const link of links) {
    const placed = inReference(link, motions, net, width, height)
    terms[link.to].push({ ...placed, other: link.from, sign: 1 })
    terms[link.from].push({ ...placed, other: link.to, sign: -1 })
  }
  const shifts = motions.map(() => new Float64Array(2 * net.columns * net.rows))
  for (let sweep = 0; sweep < SWEEPS; sweep++)
    for (let k = 0; k < motions.length; k++) if (k !== reference && terms[k].length > 0) relax(net, shifts, k, terms[k], width)
  return shifts.map((values) => bendOf(net, values, width, height))
}

/** A link as it bears on one of its frames: that frame lies `sign` × `apart` from the other, with so much certainty. */
interface Term {
  apart: Float64Array
  certainty: Float64Array
  other: number
  sign: number
}

/** What a link says at the nodes of the reference: how far the parts lie apart there, and how certain that is. */
function inReference({ from, to, motion, local }: LocalLink, motions: Similarity[], net: Net, width: number, height: number) {
  const count = net.columns * net.rows
  const [apart, certainty] = [new Float64Array(2 * count), new Float64Array(3 * count)]
  // Back to the reference by where the whole frame lies; what the pair's own motion says beyond that belongs to its parts.
  const back = compose(invert(motions[to]), motion)
  const corner = corners(net)
  const places = Array.from({ length: count }, (_, node) => [
    ((node % net.columns) / (net.columns - 1) - 0.5) * width,
    (Math.floor(node / net.columns) / (net.rows - 1) - 0.5) * height,
  ])
  const seen = places.map(([x, y]) => apply(motions[from], x, y))
  const { nodes, shares } = place(net, count, (node) => [seen[node][0] / width + 0.5, seen[node][1] / height + 0.5])
  for (let node = 0; node < count; node++) {
    const [x, y] = places[node]
    let [px, py] = seen[node]
    for (let c = 0; c < 4; c++) {
      const there = nodes[node] + corner[c]
      const share = shares[4 * node + c]
      px += share * local.shifts_px[2 * there]
      py += share * local.shifts_px[2 * there + 1]
      for (let i = 0; i < 3; i++) certainty[3 * node + i] += share * local.certainty[3 * there + i]
    }
    const [qx, qy] = apply(back, px, py)
    const share = believed(Math.hypot(qx - x, qy - y), local.pixel_px)
    apart[2 * node] = share * (qx - x)
    apart[2 * node + 1] = share * (qy - y)
  }
  return { apart, certainty }
}

function believed(apart_px: number, pixel_px: number): number {
  return apart_px ** 2 / (apart_px ** 2 + (DOUBTFUL_px * pixel_px) ** 2)
}

function relax(net: Net, shifts: Float64Array[], k: number, terms: Term[], width: number): void {
  const rest = 1 / (USUAL * width) ** 2
  const tie = 1 / (USUAL_BETWEEN * width) ** 2
  const own = shifts[k]
  for (let node = 0; node < own.length / 2; node++) {
    let [x, y, xx, xy, yy] = [0, 0, rest, 0, rest]
    neighbours(net, node, (other) => {
      x += tie * own[2 * other]
      y += tie * own[2 * other + 1]
      xx += tie
      yy += tie
    })
    for (const { apart, certainty, other, sign } of terms) {
      const [cxx, cxy, cyy] = [certainty[3 * node], certainty[3 * node + 1], certainty[3 * node + 2]]
      const wantedX = shifts[other][2 * node] + sign * apart[2 * node]
      const wantedY = shifts[other][2 * node + 1] + sign * apart[2 * node + 1]
      x += cxx * wantedX + cxy * wantedY
      y += cxy * wantedX + cyy * wantedY
      xx += cxx
      xy += cxy
      yy += cyy
    }
    const determinant = xx * yy - xy * xy
    own[2 * node] += LONGER * ((yy * x - xy * y) / determinant - own[2 * node])
    own[2 * node + 1] += LONGER * ((xx * y - xy * x) / determinant - own[2 * node + 1])
  }
}

function bendOf({ columns, rows }: Net, shifts: Float64Array, width: number, height: number): Bend | undefined {
  if (!shifts.some((shift) => Math.abs(shift) > LEAST_px)) return undefined
  const bend = createBend(columns, rows, width, height)
  shifts.forEach((shift, k) => ((k % 2 === 0 ? bend.x_px : bend.y_px)[k >> 1] = shift))
  return bend
}
