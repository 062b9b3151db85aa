/** Nodes at which local movement is measured, evenly over the whole picture, its border included. */
export interface Net {
  columns: number
  rows: number
}

/** Cells across the picture; as high as they are wide. */
const ACROSS = 24

export function netOf(width: number, height: number): Net {
  return { columns: ACROSS + 1, rows: Math.max(2, Math.round((ACROSS * height) / width)) + 1 }
}

/** The nodes around places: the upper left one of each, and the bilinear shares of the four, row by row. */
export interface Placed {
  nodes: Int32Array
  shares: Float32Array
}

/** Where `count` places lie in the net, given as 0 … 1 across and down the picture. */
export function place({ columns, rows }: Net, count: number, at: (k: number) => [number, number]): Placed {
  const [nodes, shares] = [new Int32Array(count), new Float32Array(4 * count)]
  for (let k = 0; k < count; k++) {
    const [x, y] = at(k)
    const u = Math.min(columns - 1, Math.max(0, x * (columns - 1)))
    const v = Math.min(rows - 1, Math.max(0, y * (rows - 1)))
    const [i, j] = [Math.min(columns - 2, Math.floor(u)), Math.min(rows - 2, Math.floor(v))]
    const [s, t] = [u - i, v - j]
    nodes[k] = j * columns + i
    shares.set([(1 - s) * (1 - t), s * (1 - t), (1 - s) * t, s * t], 4 * k)
  }
  return { nodes, shares }
}

/** From the upper left node around a place to each of the four. */
export const corners = ({ columns }: Net): number[] => [0, 1, columns, columns + 1]

/** Calls `each` for the neighbours of a node. */
export function neighbours({ columns, rows }: Net, node: number, each: (neighbour: number) => void): void {
  const i = node % columns
  if (i > 0) each(node - 1)
  if (i < columns - 1) each(node + 1)
  if (node >= columns) each(node - columns)
  if (node < columns * (rows - 1)) each(node + columns)
}
