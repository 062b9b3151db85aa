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
  const { path, radius_px, softness, opacity } = stroke
  const strength = new Float32Array(part.width * part.height).fill(Infinity)
  const pieces = Array.from({ length: Math.max(1, path.length - 1) }, (_, k) => [path[k], path[Math.min(k + 1, path.length - 1)]] as const)
  // All that lies within the core of any piece is as strong as can be: it is filled in runs, and distances are reckoned for the rest.
  const core = radius_px * (1 - softness)
  for (const [a, b] of pieces) fillCore(strength, part, a, b, core)
  for (const [a, b] of pieces) nearer(strength, part, a, b, radius_px)
  for (let i = 0; i < strength.length; i++) {
    const square = strength[i]
    if (square === Infinity) strength[i] = 0
    else strength[i] = square === 0 ? opacity : strengthAt(Math.sqrt(square), stroke)
  }
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

/** Puts 0 for the squared distance everywhere within the core of one piece of a path. */
function fillCore(squares: Float32Array, part: Rectangle, [ax, ay]: Point, [bx, by]: Point, core: number): void {
  const [top, bottom] = rowsOf(part, ay, by, core)
  for (let y = top; y <= bottom; y++) {
    reachOfRow(y - ay, bx - ax, by - ay, core)
    const left = Math.max(part.x, Math.ceil(ax + reach.from))
    const right = Math.min(part.x + part.width - 1, Math.floor(ax + reach.to))
    const row = (y - part.y) * part.width - part.x
    if (left <= right) squares.fill(0, row + left, row + right + 1)
  }
}

/** Takes the squared distance to one piece of a path where it is nearer; row by row only as far as the piece reaches. */
function nearer(squares: Float32Array, part: Rectangle, [ax, ay]: Point, [bx, by]: Point, radius_px: number): void {
  const ux = bx - ax
  const uy = by - ay
  const perLength = ux * ux + uy * uy > 0 ? 1 / (ux * ux + uy * uy) : 0
  const most = radius_px * radius_px
  const [top, bottom] = rowsOf(part, ay, by, radius_px)
  for (let y = top; y <= bottom; y++) {
    const py = y - ay
    reachOfRow(py, ux, uy, radius_px)
    const left = Math.max(part.x, Math.floor(ax + reach.from))
    const right = Math.min(part.x + part.width - 1, Math.ceil(ax + reach.to))
    for (let x = left, i = (y - part.y) * part.width + left - part.x; x <= right; x++, i++) {
      if (squares[i] === 0) continue
      const px = x - ax
      let t = (px * ux + py * uy) * perLength
      if (t < 0) t = 0
      else if (t > 1) t = 1
      const dx = px - t * ux
      const dy = py - t * uy
      const square = dx * dx + dy * dy
      if (square <= most && square < squares[i]) squares[i] = square
    }
  }
}

type Point = [number, number]

/** First and last row of a part that a piece may reach. */
function rowsOf({ y, height }: Rectangle, ay: number, by: number, radius: number): [number, number] {
  return [Math.max(y, Math.floor(Math.min(ay, by) - radius)), Math.min(y + height - 1, Math.ceil(Math.max(ay, by) + radius))]
}

/** What {@link reachOfRow} found: one object, as it is asked for every row of every piece. */
const reach = { from: 0, to: 0 }

/**
 * From where to where a row lies within a radius of a piece of a path that goes from 0, 0 to ux, uy; `from` is greater than `to` where
 * nowhere. The reach of a piece is convex: two discs and the band between them.
 */
function reachOfRow(y: number, ux: number, uy: number, radius: number): void {
  reach.from = Infinity
  reach.to = -Infinity
  const first = radius * radius - y * y
  if (first >= 0) takeReach(-Math.sqrt(first), Math.sqrt(first))
  const second = radius * radius - (y - uy) * (y - uy)
  if (second >= 0) takeReach(ux - Math.sqrt(second), ux + Math.sqrt(second))
  // A level piece's band ends where its discs do.
  if (uy === 0) return
  // Beside the line by at most the radius, and between its ends.
  const side = (radius * Math.sqrt(ux * ux + uy * uy)) / Math.abs(uy)
  let from = (y * ux) / uy - side
  let to = (y * ux) / uy + side
  if (ux === 0) {
    if (y * uy < 0 || y * uy > uy * uy) return
  } else {
    const start = (-y * uy) / ux
    const end = start + (ux * ux + uy * uy) / ux
    from = Math.max(from, Math.min(start, end))
    to = Math.min(to, Math.max(start, end))
  }
  if (from <= to) takeReach(from, to)
}

function takeReach(from: number, to: number): void {
  if (from < reach.from) reach.from = from
  if (to > reach.to) reach.to = to
}
