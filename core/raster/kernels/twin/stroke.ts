import { floats } from './memory'

/**
 * Places of f32 that a piece of a path takes: the whole and the rest of its start's x from the rectangle's left, the same of y from its
 * top, how far it goes in x and y, and 1 over the square of its length (0 for a point). Whole and rest are apart so that a pixel's
 * distance is rounded alike in whichever rectangle it is asked for.
 */
export const PIECE_places = 7

/**
 * How strongly a stroke acts on each pixel of a rectangle, f32 without padding: `opacity` up to `core` px from the nearest piece of its
 * path, falling smoothly to nothing at `radius`.
 */
export function strokeStrength(
  memory: ArrayBuffer,
  pieces: number,
  count: number,
  radius: number,
  core: number,
  opacity: number,
  out: number,
  width: number,
  _rows: number,
  _rowsBytes: number,
  _part: number,
  from: number,
  to: number,
): void {
  const [path, strength] = [floats(memory, pieces), floats(memory, out)]
  for (let y = from; y < to; y++)
    for (let x = 0; x < width; x++) {
      let square = Infinity
      for (let k = 0, o = 0; k < count; k++, o += PIECE_places) {
        const [px, py] = [x - path[o] - path[o + 1], y - path[o + 2] - path[o + 3]]
        const [ux, uy] = [path[o + 4], path[o + 5]]
        const t = Math.min(1, Math.max(0, (px * ux + py * uy) * path[o + 6]))
        square = Math.min(square, (px - t * ux) ** 2 + (py - t * uy) ** 2)
      }
      strength[y * width + x] = strengthAt(Math.sqrt(square), radius, core, opacity)
    }
}

/** Strength so far from the path: smooth at both ends, and never rising. */
export function strengthAt(distance_px: number, radius_px: number, core_px: number, opacity: number): number {
  if (distance_px <= core_px) return opacity
  if (distance_px >= radius_px) return 0
  const t = (distance_px - core_px) / (radius_px - core_px)
  return opacity * (1 - t) * (1 - t) * (1 + 2 * t)
}

/**
 * Lays one picture over another by a strength for each pixel, f32: both are interleaved RGB of 16 bits, all three without padding. Where the
 * strength is 0 nothing changes, where it is 1 the upper one is taken as it is.
 */
export function layOver(memory: ArrayBuffer, picture: number, over: number, strength: number, width: number, from: number, to: number): void {
  const [below, above] = [new Uint16Array(memory, picture), new Uint16Array(memory, over)]
  const shares = floats(memory, strength)
  for (let i = from * width, o = 3 * i; i < to * width; i++)
    for (const end = o + 3; o < end; o++) {
      const part = Math.fround(shares[i] * (above[o] - below[o]))
      below[o] = Math.fround(Math.fround(below[o] + part) + 0.5)
    }
}
