import { GROUP, NET_ROWS } from './kernels/twin/samples'
import type { Rectangle } from './plane'
import type { Similarity } from './similarity'

/**
 * How a frame is bent beside its motion: small displacements on a net of nodes, evenly apart, of the reference's pixels.
 * out(p) = frame(motion(p + d(p))). Between nodes d is bilinear; beyond the net it is that of its border.
 */
export interface Bend {
  /** Where the first node lies, in px from the reference's first pixel, and how far the next ones are. */
  left_px: number
  top_px: number
  spacingX_px: number
  spacingY_px: number
  columns: number
  rows: number
  /** Displacements of the nodes in px, row by row. */
  x_px: Float32Array
  y_px: Float32Array
}

/** A bend that moves nothing yet: nodes evenly over a picture, its border included. */
export function createBend(columns: number, rows: number, width: number, height: number): Bend {
  return {
    left_px: 0,
    top_px: 0,
    spacingX_px: (width - 1) / (columns - 1),
    spacingY_px: (height - 1) / (rows - 1),
    columns,
    rows,
    x_px: new Float32Array(columns * rows),
    y_px: new Float32Array(columns * rows),
  }
}

/** Displacement at a place, in px from the reference's first pixel. */
export function bendAt(bend: Bend, x: number, y: number): [number, number] {
  const { columns, rows } = bend
  const u = Math.min(columns - 1, Math.max(0, (x - bend.left_px) / bend.spacingX_px))
  const v = Math.min(rows - 1, Math.max(0, (y - bend.top_px) / bend.spacingY_px))
  const [i, j] = [Math.min(columns - 2, Math.floor(u)), Math.min(rows - 2, Math.floor(v))]
  const [s, t] = [u - i, v - j]
  const at = j * columns + i
  const mix = (values: Float32Array) =>
    (1 - t) * ((1 - s) * values[at] + s * values[at + 1]) + t * ((1 - s) * values[at + columns] + s * values[at + columns + 1])
  return [mix(bend.x_px), mix(bend.y_px)]
}

/** The farthest that a bend moves anything, in px. */
export function most_px({ x_px, y_px }: Bend): number {
  return x_px.reduce((most, x, k) => Math.max(most, Math.hypot(x, y_px[k])), 0)
}

/** The same at its border: so far a frame may be read beyond its own. */
export function bentAtBorder_px({ columns, rows, x_px, y_px }: Bend): number {
  return x_px.reduce((most, x, k) => {
    const [i, j] = [k % columns, Math.floor(k / columns)]
    const inside = i > 0 && i < columns - 1 && j > 0 && j < rows - 1
    return inside ? most : Math.max(most, Math.abs(x), Math.abs(y_px[k]))
  }, 0)
}

/** The same bend seen within a part of the reference frame that begins at `x`, `y`. */
export function bendWithin(bend: Bend, { x, y }: Pick<Rectangle, 'x' | 'y'>): Bend {
  return { ...bend, left_px: bend.left_px - x, top_px: bend.top_px - y }
}

/** How many nodes the net has that the warp kernel reads from: see `bendNet`. */
export function netSize(width: number, height: number): { columns: number; rows: number } {
  return { columns: Math.ceil(width / GROUP) + 1, rows: Math.ceil(height / NET_ROWS) + 1 }
}

/**
 * What a bend adds to the places that the warp kernel reads at, in px of the frame, on a net of every 8 columns and 16 rows:
 * first what is added along the rows, at the columns of the result; then what is added down the columns, at the middles of
 * the frame's groups of columns, for the row of the result that will cross them.
 */
export function bendNet(bend: Bend, { scale, rotation_rad, dx_px }: Similarity, width: number, height: number): Float32Array {
  const { columns, rows } = netSize(width, height)
  const [a, b] = [scale * Math.cos(rotation_rad), scale * Math.sin(rotation_rad)]
  const [centreX, centreY] = [(width - 1) / 2, (height - 1) / 2]
  const startX = -a * centreX + b * centreY + dx_px + centreX
  const net = new Float32Array(2 * columns * rows)
  for (let j = 0, o = 0; j < rows; j++) {
    const y = j * NET_ROWS
    for (let i = 0; i < columns; i++, o++) {
      const [x, across] = bendAt(bend, i * GROUP, y)
      net[o] = a * x - b * across
      const crossed = (i * GROUP + (GROUP - 1) / 2 + b * y - startX) / a
      const [along, down] = bendAt(bend, crossed, y)
      net[columns * rows + o] = b * along + a * down
    }
  }
  return net
}
