import { gridIn, smooth, type Grid, type Plane, type Rectangle } from '../raster'

/** Side of a cell in which a picture is judged, in px of the small pictures that are looked at. */
export const CELL_px = 12

export const gridOf = (picture: Pick<Plane, 'width' | 'height'>): Grid => gridIn(picture, CELL_px)

/** Mean energy of fine detail in each cell: between Gaussian smoothings of σ = 1 and 1.7 px. */
export function detailIn(plane: Plane, { across, down }: Grid): Float32Array {
  const once = smooth(plane)
  const twice = smooth(smooth(once))
  const sums = new Float32Array(across * down)
  for (let y = 0; y < down * CELL_px; y++) {
    const row = Math.floor(y / CELL_px) * across
    for (let x = 0, i = y * plane.width; x < across * CELL_px; x++, i++) sums[row + Math.floor(x / CELL_px)] += (once.data[i] - twice.data[i]) ** 2
  }
  return sums.map((sum) => sum / CELL_px ** 2)
}

/** Mean square of the difference between two planes, a quarter of the size, in each cell; `shift` is taken off first. */
export function differenceIn(a: Plane, b: Plane, { across, down }: Grid, shift = 0): Float32Array {
  const side = CELL_px / 4
  const sums = new Float32Array(across * down)
  for (let y = 0; y < Math.min(a.height, down * side); y++) {
    const row = Math.floor(y / side) * across
    for (let x = 0, i = y * a.width; x < Math.min(a.width, across * side); x++, i++)
      sums[row + Math.floor(x / side)] += (a.data[i] - b.data[i] - shift) ** 2
  }
  return sums.map((sum) => sum / side ** 2)
}

/** The cells that a rectangle of cells holds. */
export function cellsOf({ x, y, width, height }: Rectangle, { across }: Grid): number[] {
  return Array.from({ length: width * height }, (_, k) => (y + Math.floor(k / width)) * across + x + (k % width))
}

/** Marked cells and those right beside them: what lies two apart hangs together. */
export function widened(marked: Uint8Array, { across, down }: Grid): Uint8Array {
  const out = new Uint8Array(marked.length)
  marked.forEach((is, k) => {
    if (!is) return
    const [x, y] = [k % across, Math.floor(k / across)]
    for (let v = Math.max(0, y - 1); v <= Math.min(down - 1, y + 1); v++)
      out.fill(1, v * across + Math.max(0, x - 1), v * across + Math.min(across - 1, x + 1) + 1)
  })
  return out
}

/** The value that this part of some values does not exceed. */
export function quantileOf(values: Float32Array | number[], part: number): number {
  const sorted = Float64Array.from(values).sort()
  return sorted[Math.min(sorted.length - 1, Math.floor(part * sorted.length))] ?? 0
}
