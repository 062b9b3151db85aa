import type { Plane } from '../raster'
import { mean, median, quantile } from '../statistics'

export interface Disc {
  x: number
  y: number
  radius_px: number
}

/** A disc has enough places from this radius on. */
const LEAST_px = 1.3

/** The disc about a place that stands out most from the ring around it. */
export function fitted(plane: Plane, x: number, y: number, most_px: number): Disc & { dark: number } {
  let best = { x, y, radius_px: LEAST_px, dark: 0 }
  for (let radius_px = LEAST_px; radius_px <= most_px; radius_px *= 1.25) {
    // Larger discs count a little more: within a speck all are alike.
    const dark = discOf(plane, { x, y, radius_px }) * Math.sqrt(radius_px)
    if (dark > best.dark) best = { x, y, radius_px, dark }
  }
  return best
}

/** A disc moved to the middle of what is dark about it, and made as large as that is. */
export function centred(plane: Plane, disc: Disc): Disc {
  const { width, height, data } = plane
  let { x, y, radius_px } = disc
  for (let round = 0; round < 3; round++) {
    const reach = 2 * radius_px
    const near: { u: number; v: number; away: number; value: number }[] = []
    for (let v = Math.max(0, Math.ceil(y - reach)); v <= Math.min(height - 1, y + reach); v++)
      for (let u = Math.max(0, Math.ceil(x - reach)); u <= Math.min(width - 1, x + reach); u++)
        near.push({ u, v, away: Math.hypot(u - x, v - y), value: data[v * width + u] })
    const around = median(near.filter(({ away }) => away > 1.5 * radius_px && away < reach).map(({ value }) => value))
    const deepest = around - median(near.filter(({ away }) => away < 0.6 * radius_px).map(({ value }) => value))
    // Half as dark as its middle is within; noise is not.
    const within = near.filter(({ away, value }) => away < 1.6 * radius_px && around - value > deepest / 2)
    if (!(deepest > 0) || within.length < 4) break
    x = mean(within.map(({ u }) => u))
    y = mean(within.map(({ v }) => v))
    // At the picture's edge a part of it is missing: as far as most of it reaches, then.
    const farthest = quantile(
      within.map(({ u, v }) => Math.hypot(u - x, v - y)),
      0.9,
    )
    radius_px = Math.min(1.4 * disc.radius_px, Math.max(0.6 * disc.radius_px, Math.sqrt(within.length / Math.PI), farthest))
  }
  return { x, y, radius_px }
}

/** The ring around a disc beside the disc; NaN where too little of it is known. */
export function discOf({ width, height, data }: Plane, { x, y, radius_px }: Disc): number {
  let [inside, insides, around, arounds] = [0, 0, 0, 0]
  const reach = Math.ceil(2.2 * radius_px)
  const [u0, v0] = [Math.round(x), Math.round(y)]
  for (let v = Math.max(0, v0 - reach); v <= Math.min(height - 1, v0 + reach); v++)
    for (let u = Math.max(0, u0 - reach); u <= Math.min(width - 1, u0 + reach); u++) {
      const away = Math.hypot(u - x, v - y) / radius_px
      const value = data[v * width + u]
      if (Number.isNaN(value)) continue
      if (away < 0.75) {
        inside += value
        insides++
      } else if (away > 1.5 && away < 2.2) {
        around += value
        arounds++
      }
    }
  const enough = insides > 0.8 * radius_px ** 2 && arounds > 2 * radius_px ** 2
  return enough ? around / arounds - inside / insides : NaN
}

/** As finely is a speck's rim told. */
const RINGS_per_px = 2

/**
 * What most specks are: alike all around their middle. Values about a disc, each brought so near to the mean of all as far from the middle
 * as `noise` (its square) explains what they differ by; what differs for more than that has a form of its own and stays.
 */
export function evenedAround({ width, height, data }: Plane, { x, y }: Disc, noise: number): Float32Array {
  const far = Float32Array.from(data, (_, i) => RINGS_per_px * Math.hypot((i % width) - x, Math.floor(i / width) - y))
  const bins = Math.ceil(RINGS_per_px * Math.hypot(width, height)) + 2
  const [sums, counts] = [new Float64Array(bins), new Float64Array(bins)]
  for (let i = 0; i < data.length; i++) {
    const [k, part] = [Math.floor(far[i]), far[i] % 1]
    sums[k] += (1 - part) * data[i]
    counts[k] += 1 - part
    sums[k + 1] += part * data[i]
    counts[k + 1] += part
  }
  const ofRing = sums.map((sum, k) => (counts[k] > 0 ? sum / counts[k] : 0))
  const around = far.map((away) => ofRing[Math.floor(away)] * (1 - (away % 1)) + ofRing[Math.floor(away) + 1] * (away % 1))
  let squares = 0
  for (let i = 0; i < data.length; i++) squares += (data[i] - around[i]) ** 2
  const own = squares > 0 ? Math.max(0, 1 - (noise * data.length) / squares) : 0
  return data.map((value, i) => around[i] + own * (value - around[i]))
}
