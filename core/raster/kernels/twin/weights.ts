import { blend, clamp, expanded, floats, reader, weightOf } from './memory'

/**
 * Energy of a band: the mean over the channels of (fine − coarse brought to its size)², smoothed so many times. `bytes` a place of `fine`:
 * 2 or 4.
 */
export function energy(
  memory: ArrayBuffer,
  red: number,
  green: number,
  blue: number,
  bytes: number,
  stride: number,
  coarseRed: number,
  coarseGreen: number,
  coarseBlue: number,
  coarseStride: number,
  coarseHeight: number,
  width: number,
  height: number,
  smoothings: number,
  target: number,
  _rows: number,
  _rowsBytes: number,
  _part: number,
  from: number,
  to: number,
): void {
  const fine = [red, green, blue].map((at) => reader(memory, at, bytes))
  const coarse = [coarseRed, coarseGreen, coarseBlue].map((at) => expanded(floats(memory, at), coarseStride, (width + 1) >> 1, coarseHeight))
  // Smoothing looks two rows on, each time.
  const [first, end] = [Math.max(0, from - 2 * smoothings), Math.min(height, to + 2 * smoothings)]
  let rows = Array.from({ length: end - first }, (_, k) =>
    Float32Array.from({ length: width }, (__, x) => {
      const o = (first + k) * stride + x
      return fine.reduce((sum, channel, c) => sum + (channel(o) - coarse[c](x, first + k)) ** 2, 0) / 3
    }),
  )
  for (let k = 0; k < smoothings; k++) rows = smoothedRows(rows)
  const out = floats(memory, target)
  for (let y = from; y < to; y++) out.set(rows[y - first], y * stride)
}

function smoothedRows(rows: Float32Array<ArrayBuffer>[]): Float32Array<ArrayBuffer>[] {
  const down = rows.map((_, y) => {
    const five = [-2, -1, 0, 1, 2].map((k) => rows[clamp(y + k, rows.length)])
    return five[0].map((_value, x) => blend(five[0][x], five[1][x], five[2][x], five[3][x], five[4][x]))
  })
  return down.map((line) => line.map((_, x) => blend(...([-2, -1, 0, 1, 2].map((k) => line[clamp(x + k, line.length)]) as Parameters<typeof blend>))))
}

/** Energies to weights, in place. */
export function raise(
  memory: ArrayBuffer,
  plane: number,
  stride: number,
  scale: number,
  least: number,
  power: number,
  from: number,
  to: number,
): void {
  const values = floats(memory, plane)
  for (let i = from * stride; i < to * stride; i++) values[i] = weightOf(values[i], scale, least, power)
}
