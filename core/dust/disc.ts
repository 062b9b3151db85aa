import type { Plane } from '../raster'

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
