import { apply, invert, type Similarity } from '../raster'

/** A frame's logarithms, in whole parts. */
export interface KeptFrame {
  index: number
  log: Int16Array
}

export interface Disc {
  x: number
  y: number
  radius_px: number
}

/** What was beneath lies farther away than this, in radii, where it is compared. */
const AWAY = 1.4

/** How much darker a place is than around it, in every frame, beside what was beneath it where other frames have that. */
export interface Beneath {
  /** Mean of the place itself, and what four frames of five have at the least. */
  place: number
  mostly: number
  /** Mean of what was beneath, seen where it lies beside the place; NaN where it never does. */
  subject: number
  /** Deviation of that. */
  spread: number
  pairs: number
}

/**
 * Dust stays where it is: what lay beneath it in one frame is no darker than around in another, which shows it beside. What belongs to the
 * subject is as dark there. In the unit of the frames' logarithms.
 */
export function beneath(frames: KeptFrame[], motions: (Similarity | undefined)[], width: number, height: number, { x, y, radius_px }: Disc): Beneath {
  const [cx, cy] = [(width - 1) / 2, (height - 1) / 2]
  const seen = frames.flatMap(({ index, log }) => {
    const motion = motions[index]
    return motion ? [{ motion, log }] : []
  })
  const dips = seen.map(({ log }) => dipAt(log, width, height, x, y, radius_px))
  const subjects: number[] = []
  for (const { motion } of seen) {
    const [px, py] = apply(invert(motion), x - cx, y - cy)
    for (const other of seen) {
      const [qx, qy] = apply(other.motion, px, py)
      if (Math.hypot(qx + cx - x, qy + cy - y) < AWAY * radius_px) continue
      const dip = dipAt(other.log, width, height, qx + cx, qy + cy, radius_px)
      if (!Number.isNaN(dip)) subjects.push(dip)
    }
  }
  const known = dips.filter((dip) => !Number.isNaN(dip)).sort((a, b) => a - b)
  const subject = meanOf(subjects)
  const spread = Math.sqrt(meanOf(subjects.map((dip) => (dip - subject) ** 2)))
  return { place: meanOf(known), mostly: known[Math.floor(known.length / 5)] ?? NaN, subject, spread, pairs: subjects.length }
}

/** The ring around a disc beside the disc; NaN where too little of it is in the picture. */
export function dipAt(log: Int16Array, width: number, height: number, x: number, y: number, radius: number): number {
  let [inside, insides, around, arounds] = [0, 0, 0, 0]
  const reach = Math.ceil(2.2 * radius)
  const [u0, v0] = [Math.round(x), Math.round(y)]
  for (let v = Math.max(0, v0 - reach); v <= Math.min(height - 1, v0 + reach); v++)
    for (let u = Math.max(0, u0 - reach); u <= Math.min(width - 1, u0 + reach); u++) {
      const away = Math.hypot(u - x, v - y) / radius
      if (away < 0.75) {
        inside += log[v * width + u]
        insides++
      } else if (away > 1.5 && away < 2.2) {
        around += log[v * width + u]
        arounds++
      }
    }
  const enough = insides > 1.2 * radius * radius && arounds > 4 * radius * radius
  return enough ? around / arounds - inside / insides : NaN
}

const meanOf = (values: number[]) => (values.length > 0 ? values.reduce((sum, value) => sum + value, 0) / values.length : NaN)
