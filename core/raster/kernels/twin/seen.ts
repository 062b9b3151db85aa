import { floats } from './memory'

/**
 * To each place (x, y) of `sums` is added what `values` have where another frame shows the same, at (a x − b y + u, b x + a y + v), rounded to a
 * whole place, times the weight of the cell of 8 × 8 places, `across` in a row, that (x, y) lies in. `bounds` has two whole numbers a row: from which
 * to before which column the other frame shows the same. Rows lie `width` places apart.
 */
export function addSeen(
  memory: ArrayBuffer,
  values: number,
  width: number,
  weights: number,
  across: number,
  bounds: number,
  a: number,
  b: number,
  u: number,
  v: number,
  sums: number,
  from: number,
  to: number,
): void {
  const [data, cells, out] = [values, weights, sums].map((at) => floats(memory, at))
  const ends = new Int32Array(memory, bounds)
  for (let y = from; y < to; y++) {
    const [first, behind] = [ends[2 * y], ends[2 * y + 1]]
    let qx = a * first - b * y + u + 0.5
    let qy = b * first + a * y + v + 0.5
    for (let x = first; x < behind; x++, qx += a, qy += b)
      out[y * width + x] += cells[(y >> 3) * across + (x >> 3)] * data[Math.floor(qy) * width + Math.floor(qx)]
  }
}
