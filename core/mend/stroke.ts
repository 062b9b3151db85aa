import { meeting, type Rectangle } from '../raster'
import { PIECE_places, strengthAt as strengthOf, type Workspace } from '../raster/kernels'
import type { Stroke } from './edits'

/** How strongly a stroke acts on each pixel of a rectangle, 0 … 1, row by row, and where that lies in the kernels' memory. */
export interface StrokeMask extends Rectangle {
  strength: Float32Array
  at: number
}

/** The pixels of a picture that a stroke may touch; empty (width or height 0) where it lies outside. */
export function strokeBounds(stroke: Pick<Stroke, 'path' | 'radius_px'>, width: number, height: number): Rectangle {
  return meeting(reachOf(stroke.path, stroke.radius_px), { x: 0, y: 0, width, height })
}

/** The least rectangle within a part that holds what a stroke may touch of it; empty where that is nothing. */
export function touchedBy({ path, radius_px }: Stroke, part: Rectangle): Rectangle {
  const reaches = piecesOf(path).map((piece) => meeting(reachOf(piece, radius_px), part))
  const all = reaches.filter(({ width, height }) => width > 0 && height > 0)
  if (all.length === 0) return { ...part, width: 0, height: 0 }
  const [x, y] = [least(all.map((one) => one.x)), least(all.map((one) => one.y))]
  return { x, y, width: most(all.map((one) => one.x + one.width)) - x, height: most(all.map((one) => one.y + one.height)) - y }
}

// A long path has more points than a call takes arguments.
const least = (values: number[]) => values.reduce((a, b) => Math.min(a, b), Infinity)
const most = (values: number[]) => values.reduce((a, b) => Math.max(a, b), -Infinity)

/** What lies so near to points. */
function reachOf(points: readonly Point[], radius_px: number): Rectangle {
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)]
  const [x, y] = [Math.floor(least(xs) - radius_px), Math.floor(least(ys) - radius_px)]
  return { x, y, width: Math.ceil(most(xs) + radius_px) - x + 1, height: Math.ceil(most(ys) + radius_px) - y + 1 }
}

/**
 * Strength of a stroke over a rectangle: `opacity` as far as radius · (1 − softness) from its path, falling smoothly to nothing at the
 * radius. Parts of one stroke that overlap do not add up: the nearest point of the path counts. The mask lies in the workspace.
 */
export function strokeMask({ path, radius_px, softness, opacity }: Stroke, part: Rectangle, space: Workspace): StrokeMask {
  const { kernels } = space
  const pieces = piecesOf(path)
  const values = pieces.flatMap(([[ax, ay], [bx, by]]) => {
    const [x, y, ux, uy] = [Math.floor(ax), Math.floor(ay), bx - ax, by - ay]
    const square = ux * ux + uy * uy
    return [x - part.x, ax - x, y - part.y, ay - y, ux, uy, square > POINT_px ** 2 ? 1 / square : 0]
  })
  const list = space.bytes(4 * PIECE_places * pieces.length)
  const at = space.bytes(4 * part.width * part.height)
  new Float32Array(kernels.buffer(), list, values.length).set(values)
  kernels.run('strokeStrength', [list, pieces.length, radius_px, radius_px * (1 - softness), opacity, at, part.width], part.height)
  return { ...part, at, strength: new Float32Array(kernels.buffer(), at, part.width * part.height) }
}

/** Strength of a stroke so far from its path. */
export function strengthAt(distance_px: number, { radius_px, softness, opacity }: Pick<Stroke, 'radius_px' | 'softness' | 'opacity'>): number {
  return strengthOf(distance_px, radius_px, radius_px * (1 - softness), opacity)
}

type Point = [number, number]

/** A piece no longer than this is a point: 1 over the square of less would not fit into 32 bits. */
const POINT_px = 1e-6

/** The straight pieces of a path; of a single point, one without length. */
const piecesOf = (path: Point[]) =>
  Array.from({ length: Math.max(1, path.length - 1) }, (_, k) => [path[k], path[Math.min(k + 1, path.length - 1)]] as const)
