import type { Rectangle } from '../raster'
import type { Stroke } from './edits'

/** How strongly a stroke acts on each pixel of a rectangle, 0 … 1, row by row. */
export interface StrokeMask extends Rectangle {
  strength: Float32Array
}

/** The pixels of a picture that a stroke may touch; empty (width or height 0) where it lies outside. */
export function strokeBounds({ path, radius_px }: Stroke, width: number, height: number): Rectangle {
  const xs = path.map(([x]) => x)
  const ys = path.map(([, y]) => y)
  const left = Math.max(0, Math.floor(least(xs) - radius_px))
  const top = Math.max(0, Math.floor(least(ys) - radius_px))
  const right = Math.min(width - 1, Math.ceil(most(xs) + radius_px))
  const bottom = Math.min(height - 1, Math.ceil(most(ys) + radius_px))
  return { x: left, y: top, width: Math.max(0, right - left + 1), height: Math.max(0, bottom - top + 1) }
}

// A long path has more points than a call takes arguments.
const least = (values: number[]) => values.reduce((a, b) => Math.min(a, b), Infinity)
const most = (values: number[]) => values.reduce((a, b) => Math.max(a, b), -Infinity)

/**
 * Strength of a stroke over a rectangle: `opacity` as far as radius · (1 − softness) from its path, falling smoothly to nothing at the
 * radius. Parts of one stroke that overlap do not add up: the nearest point of the path counts.
 */
export function strokeMask(stroke: Stroke, part: Rectangle): StrokeMask {
  const { path, radius_px } = stroke
  const squares = new Float32Array(part.width * part.height).fill(Infinity)
  for (let k = 0; k < Math.max(1, path.length - 1); k++) nearer(squares, part, path[k], path[Math.min(k + 1, path.length - 1)], radius_px)
  const strength = squares
  for (let i = 0; i < strength.length; i++) strength[i] = squares[i] === Infinity ? 0 : strengthAt(Math.sqrt(squares[i]), stroke)
  return { ...part, strength }
}

/** Strength of a stroke so far from its path. */
export function strengthAt(distance_px: number, { radius_px, softness, opacity }: Pick<Stroke, 'radius_px' | 'softness' | 'opacity'>): number {
  const core = radius_px * (1 - softness)
  if (distance_px <= core) return opacity
  if (distance_px >= radius_px) return 0
  const t = (distance_px - core) / (radius_px - core)
  // Smooth at both ends, and never rising.
  return opacity * (1 - t) * (1 - t) * (1 + 2 * t)
}

/** Takes the squared distance to one piece of a path where it is nearer. */
function nearer(squares: Float32Array, part: Rectangle, [ax, ay]: [number, number], [bx, by]: [number, number], radius_px: number): void {
  const [ux, uy] = [bx - ax, by - ay]
  const length = ux * ux + uy * uy
  const from = (low: number, high: number) => Math.max(0, Math.floor(Math.min(low, high) - radius_px))
  const left = Math.max(part.x, from(ax, bx))
  const top = Math.max(part.y, from(ay, by))
  const right = Math.min(part.x + part.width - 1, Math.ceil(Math.max(ax, bx) + radius_px))
  const bottom = Math.min(part.y + part.height - 1, Math.ceil(Math.max(ay, by) + radius_px))
  const reach = radius_px * radius_px
  for (let y = top; y <= bottom; y++) {
    const row = (y - part.y) * part.width - part.x
    for (let x = left; x <= right; x++) {
      const [px, py] = [x - ax, y - ay]
      const t = length > 0 ? Math.min(1, Math.max(0, (px * ux + py * uy) / length)) : 0
      const [dx, dy] = [px - t * ux, py - t * uy]
      const square = dx * dx + dy * dy
      if (square <= reach && square < squares[row + x]) squares[row + x] = square
    }
  }
}
