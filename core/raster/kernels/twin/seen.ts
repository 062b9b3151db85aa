import { floats } from './memory'

/** Places are counted in so many parts of one. */
const UNITS = 2 ** 32
const fixed = (value: number) => Math.trunc(value * UNITS)

/** Numbers that a pair of frames has: see `addAllSeen`. */
export const PAIR_numbers = 6

/**
 * To each place (x, y) of `sums` is added, for one pair of frames after the other, what `values` have where the other frame shows the same, at
 * (a x − b y + u, b x + a y + v), rounded to a whole place, times the weight of the cell of 8 × 8 places, `across` in a row, that (x, y) lies in.
 * Of each pair, `pairs` has as f64 where its weights lie, where its bounds do, a, b, u and v. Bounds are two whole numbers a row: from which to
 * before which column the other frame shows the same. Rows lie `width` places apart.
 */
export function addAllSeen(
  memory: ArrayBuffer,
  values: number,
  width: number,
  across: number,
  pairs: number,
  count: number,
  sums: number,
  from: number,
  to: number,
): void {
  const [data, out] = [values, sums].map((at) => floats(memory, at))
  const numbers = new Float64Array(memory, pairs, PAIR_numbers * count)
  for (let pair = 0; pair < numbers.length; pair += PAIR_numbers) {
    const [weights, bounds] = numbers.subarray(pair)
    const [a, b] = [numbers[pair + 2], numbers[pair + 3]].map(fixed)
    const [u, v] = [numbers[pair + 4] + 0.5, numbers[pair + 5] + 0.5].map(fixed)
    const cells = floats(memory, weights)
    const ends = new Int32Array(memory, bounds)
    for (let y = from; y < to; y++) {
      const [first, behind] = [ends[2 * y], ends[2 * y + 1]]
      let qx = a * first - b * y + u
      let qy = b * first + a * y + v
      for (let x = first; x < behind; x++, qx += a, qy += b)
        out[y * width + x] += cells[(y >> 3) * across + (x >> 3)] * data[Math.floor(qy / UNITS) * width + Math.floor(qx / UNITS)]
    }
  }
}
