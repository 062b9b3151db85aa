import type { Speck } from '../dust'
import { apply, encoded, invert, type Plane, type Rectangle, type Similarity } from '../raster'

/** The trail of a speck is seen where the picture is darker than around by this part of what the speck takes away. */
const SEEN = 0.35
const LEAST_DIP = 0.02
/** Light of middle tones. */
const MIDDLE = 0.18
/** What is filled from around is safe where that varies by less than this part of the trail's darkness. */
const EVEN = 0.4

export interface Trail {
  /** In px of the picture that was looked at. */
  rectangle: Rectangle
  /** How much darker than around it is, 0 … 1. */
  darkness: number
  /** What lies around is so even that filling from it is safe. */
  even: boolean
}

/**
 * Where a speck shows in a fused picture: at the places where the frames had it, as far as the picture is darker there. `place` brings
 * a place of a frame, in px of the frames that the specks were found in, into px of the picture; `scale` is how much larger that is.
 */
export function trailOf(
  speck: Speck,
  motions: Similarity[],
  frame: { width: number; height: number },
  fused: Plane,
  shift: [number, number],
  scale: number,
): Trail | undefined {
  const [u, v] = [speck.x - (frame.width - 1) / 2, speck.y - (frame.height - 1) / 2]
  const radius = Math.max(2, speck.radius_px * scale)
  // On encoded values, at middle tones.
  const takes = 1 - encoded(MIDDLE * (1 - speck.darkness)) / encoded(MIDDLE)
  const seen = motions.flatMap((motion) => {
    const [x, y] = apply(invert(motion), u, v)
    const at = [(x + (frame.width - 1) / 2 + 0.5) * scale - 0.5 - shift[0], (y + (frame.height - 1) / 2 + 0.5) * scale - 0.5 - shift[1]] as const
    const { dip, spread } = dipAt(fused, at[0], at[1], radius)
    return dip > Math.max(LEAST_DIP, SEEN * takes) ? [{ x: at[0], y: at[1], dip, spread }] : []
  })
  if (seen.length === 0) return undefined
  const [left, right] = [Math.min(...seen.map(({ x }) => x)) - 1.4 * radius, Math.max(...seen.map(({ x }) => x)) + 1.4 * radius]
  const [top, bottom] = [Math.min(...seen.map(({ y }) => y)) - 1.4 * radius, Math.max(...seen.map(({ y }) => y)) + 1.4 * radius]
  return {
    rectangle: { x: left, y: top, width: right - left, height: bottom - top },
    darkness: Math.max(...seen.map(({ dip }) => dip)),
    even: seen.every(({ dip, spread }) => spread < EVEN * dip),
  }
}

/** How much darker a disc is than the ring around it, and how much that varies, as parts of the ring's mean. */
function dipAt({ width, height, data }: Plane, x: number, y: number, radius: number): { dip: number; spread: number } {
  let [inside, insides, around, arounds, squares] = [0, 0, 0, 0, 0]
  const reach = Math.ceil(2.2 * radius)
  for (let v = Math.max(0, Math.round(y) - reach); v <= Math.min(height - 1, Math.round(y) + reach); v++)
    for (let u = Math.max(0, Math.round(x) - reach); u <= Math.min(width - 1, Math.round(x) + reach); u++) {
      const away = Math.hypot(u - x, v - y) / radius
      if (away < 0.7) [inside, insides] = [inside + data[v * width + u], insides + 1]
      else if (away > 1.6 && away < 2.2) {
        around += data[v * width + u]
        squares += data[v * width + u] ** 2
        arounds++
      }
    }
  if (insides === 0 || arounds === 0) return { dip: 0, spread: 0 }
  const mean = Math.max(1e-3, around / arounds)
  return { dip: 1 - inside / insides / mean, spread: Math.sqrt(Math.max(0, squares / arounds - (around / arounds) ** 2)) / mean }
}
