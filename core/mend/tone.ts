import { membrane, type Patch } from './membrane'
import type { StrokeMask } from './stroke'

/** The rim over which donor and picture are compared, as a part of the stroke's narrower side, and its least width. */
const RIM = 0.25
const LEAST_rim_px = 3

/**
 * Raises a donor so that its local tone meets the picture's around the stroke. What the two differ by on a rim at the stroke's edge is
 * carried smoothly across; fine detail stays the donor's. `donor` and `picture` are three channels 0 … 1 of the mask's rectangle; the donor
 * is changed in place.
 */
export function evenTone(donor: Float32Array, picture: Float32Array, mask: StrokeMask): void {
  const { width, height, strength } = mask
  const rim = rimOf(mask)
  if (!rim.includes(1)) return
  const away: Patch = { width, height, samples: new Float32Array(donor.length) }
  for (let i = 0; i < strength.length; i++) if (rim[i]) for (let c = 0; c < 3; c++) away.samples[3 * i + c] = picture[3 * i + c] - donor[3 * i + c]
  const even = membrane(smoothed(away, rim), rim)
  for (let i = 0; i < donor.length; i++) donor[i] = Math.min(1, Math.max(0, donor[i] + even.samples[i]))
}

/** Pixels that the stroke does not touch, near those that it does. */
function rimOf({ width, height, strength }: StrokeMask): Uint8Array {
  const narrow = Math.min(width, height)
  const reach = Math.max(LEAST_rim_px, Math.round(RIM * narrow))
  // Distance in city blocks from what is touched, by two sweeps (Rosenfeld & Pfaltz, 1966).
  const away = Int32Array.from(strength, (s) => (s > 0 ? 0 : 1 << 20))
  for (let i = 0; i < away.length; i++) {
    if (i % width > 0) away[i] = Math.min(away[i], away[i - 1] + 1)
    if (i >= width) away[i] = Math.min(away[i], away[i - width] + 1)
  }
  for (let i = away.length - 1; i >= 0; i--) {
    if (i % width < width - 1) away[i] = Math.min(away[i], away[i + 1] + 1)
    if (i < away.length - width) away[i] = Math.min(away[i], away[i + width] + 1)
  }
  return Uint8Array.from(away, (d) => Number(d > 0 && d <= reach))
}

/** Means of what is known around: detail that differs is no difference of tone. */
function smoothed({ width, height, samples }: Patch, known: Uint8Array): Patch {
  const out = new Float32Array(samples.length)
  const reach = Math.max(1, Math.round(Math.min(width, height) / 16))
  // Two running sums, along rows and along columns, over what is known.
  const across = runningMeans(samples, known, width, height, reach, true)
  out.set(runningMeans(across, known, width, height, reach, false))
  return { width, height, samples: out }
}

function runningMeans(samples: Float32Array, known: Uint8Array, width: number, height: number, reach: number, alongRows: boolean): Float32Array {
  const out = new Float32Array(samples.length)
  const [lines, length] = alongRows ? [height, width] : [width, height]
  const at = (line: number, n: number) => (alongRows ? line * width + n : n * width + line)
  for (let line = 0; line < lines; line++) {
    const sum = [0, 0, 0]
    let count = 0
    const take = (n: number, sign: number) => {
      if (n < 0 || n >= length || !known[at(line, n)]) return
      count += sign
      for (let c = 0; c < 3; c++) sum[c] += sign * samples[3 * at(line, n) + c]
    }
    for (let n = 0; n < reach; n++) take(n, 1)
    for (let n = 0; n < length; n++) {
      take(n + reach, 1)
      take(n - reach - 1, -1)
      const i = at(line, n)
      if (known[i]) for (let c = 0; c < 3; c++) out[3 * i + c] = sum[c] / count
    }
  }
  return out
}
