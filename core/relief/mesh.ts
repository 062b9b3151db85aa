import type { Interleaved, Plane, Rectangle } from '../raster'

/** A surface over the picture: a grid of vertices with their colours, and two triangles to each cell. */
export interface Mesh {
  columns: number
  rows: number
  /** x right, y up, z towards the viewer; three numbers a vertex. */
  places: Float32Array
  /** Red, green, blue, 8 bits each. */
  colours: Uint8Array
}

/** Cells along the longer side; more make files that few programs open. */
const MOST_CELLS = 480

/** How places of a picture become lengths: a unit of depth rises by `rise`, and a pixel has the side that its depth gives it. */
export interface MeshScale {
  rise: number
  pixel: (depth: number) => number
}

/**
 * The relief of a picture. `depth` is `1 / times` of the picture's size, `crop` the part of the picture to take; heights are
 * `rise` times the depth towards the viewer, in the unit of the sides, which lie about the middle.
 */
export function meshOf(depth: Plane & { times: number }, picture: Interleaved, crop: Rectangle, { rise, pixel }: MeshScale): Mesh {
  const step = Math.max(1, Math.ceil(Math.max(crop.width, crop.height) / MOST_CELLS))
  const columns = Math.floor((crop.width - 1) / step) + 1
  const rows = Math.floor((crop.height - 1) / step) + 1
  const mesh: Mesh = { columns, rows, places: new Float32Array(columns * rows * 3), colours: new Uint8Array(columns * rows * 3) }
  const toByte = picture.samples instanceof Uint16Array ? 1 / 257 : 1
  const [middle_x, middle_y] = [(crop.width - 1) / 2, (crop.height - 1) / 2]
  for (let row = 0, v = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++, v += 3) {
      const [x, y] = [crop.x + column * step, crop.y + row * step]
      const deep = depth.data[Math.floor(y / depth.times) * depth.width + Math.floor(x / depth.times)]
      const side = pixel(deep)
      mesh.places[v] = (column * step - middle_x) * side
      mesh.places[v + 1] = (middle_y - row * step) * side
      mesh.places[v + 2] = -rise * deep
      for (let c = 0; c < 3; c++) mesh.colours[v + c] = Math.round(picture.samples[(y * picture.width + x) * 3 + c] * toByte)
    }
  }
  return mesh
}

/** Numbers of the vertices of all triangles, three each, seen from the front with the first two edges turning left. */
export function triangleIndices({ columns, rows }: Pick<Mesh, 'columns' | 'rows'>): Uint32Array {
  const indices = new Uint32Array(6 * Math.max(0, columns - 1) * Math.max(0, rows - 1))
  let at = 0
  for (let row = 0; row + 1 < rows; row++)
    for (let column = 0; column + 1 < columns; column++, at += 6) {
      const i = row * columns + column
      indices.set([i, i + columns, i + 1, i + 1, i + columns, i + columns + 1], at)
    }
  return indices
}
