import { cellsOf } from './cells'
import { clustersOf, differenceFrom, isSafe, sharpestIn, worst, type Evidence } from './findings'
import type { Finding } from './place'

/** A frame has so many times the picture's detail: the picture is soft there. */
const SOFTER = 1.7
/** What counts as detail, in multiples of noise. */
const DETAIL = 6
const MOST_CELLS = 6

/** Places where one frame is clearly sharper than the picture. */
export function softIn(evidence: Evidence): Finding[] {
  const { grid, detail, fused, noise } = evidence
  const marked = new Uint8Array(fused.length)
  for (let cell = 0; cell < fused.length; cell++) {
    const most = detail.reduce((high, energies) => Math.max(high, energies[cell]), 0)
    if (most > DETAIL * noise && most - noise > SOFTER * Math.max(0, fused[cell] - 0.3 * noise)) marked[cell] = 1
  }
  return clustersOf(marked, grid, MOST_CELLS).flatMap((rectangle) => {
    const own = cellsOf(rectangle, grid).filter((cell) => marked[cell])
    const frame = sharpestIn(own, evidence)
    if (frame === undefined) return []
    const [there, here] = [detail[frame], fused].map((energies) => own.reduce((sum, cell) => sum + energies[cell], 0))
    // Softer by detail that lies at the same place; else it is no softness.
    const difference = differenceFrom(frame, evidence)
    const apart = own.reduce((sum, cell) => sum + difference[cell], 0)
    const gain = there - here - own.length * noise
    if (gain <= 0) return []
    const severity = Math.min(0.9, (1 - here / there) * Math.min(1, own.length / 4) * Math.min(1, there / own.length / (20 * noise)))
    const safe = own.length >= 2 && apart < 4 * gain && isSafe(rectangle, frame, gain, evidence)
    return [{ cells: rectangle, kind: 'soft' as const, severity, frames: [frame], suggestion: safe ? { frame } : null }]
  })
}

/** Two peaks of sharpness count where the lesser has this part of the greater, and between them it falls below this part of the lesser. */
const LESSER = 0.3
const VALLEY = 0.4
/** Never more than this: two depths at one place are often right as they are. */
const MOST_SEVERITY = 0.5
const MOST_CROSSINGS = 12

/** Places that are sharp at two depths, such as a hair over a surface. */
export function crossingsIn(evidence: Evidence): Finding[] {
  const { grid, detail, noise } = evidence
  const marked = new Uint8Array(detail[0].length)
  const depths: ([number, number] | undefined)[] = []
  for (let cell = 0; cell < marked.length; cell++) {
    const found = twoPeaks(
      detail.map((energies) => energies[cell]),
      DETAIL * noise,
    )
    if (!found) continue
    depths[cell] = found
    marked[cell] = 1
  }
  const found = clustersOf(marked, grid, Infinity).map((rectangle): Finding => {
    const own = cellsOf(rectangle, grid).filter((cell) => marked[cell])
    const [near, far] = [0, 1].map((which) => Math.round(own.reduce((sum, cell) => sum + depths[cell]![which], 0) / own.length))
    const severity = MOST_SEVERITY * Math.min(1, own.length / 6) * Math.min(1, (far - near) / detail.length / 0.4)
    return { cells: rectangle, kind: 'crossing', severity, frames: [near, far], suggestion: null }
  })
  return worst(found, MOST_CROSSINGS)
}

/** Where a course of sharpness has two peaks, far apart; undefined where it has one. */
export function twoPeaks(energies: number[], least: number): [number, number] | undefined {
  const apart = Math.max(3, Math.floor(energies.length / 5))
  const best = energies.reduce((at, value, k) => (value > energies[at] ? k : at), 0)
  let other: number | undefined
  for (let k = 0; k < energies.length; k++) {
    if (Math.abs(k - best) < apart || energies[k] < Math.max(least, LESSER * energies[best])) continue
    const between = energies.slice(Math.min(k, best), Math.max(k, best) + 1)
    if (Math.min(...between) < VALLEY * energies[k] && (other === undefined || energies[k] > energies[other])) other = k
  }
  return other === undefined ? undefined : [Math.min(best, other), Math.max(best, other)]
}
