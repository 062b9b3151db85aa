import { expanded, floats, reader, weightOf } from './memory'

/** Energy of a band: the mean over the channels of (fine − coarse brought to its size)². `bytes` a place of `fine`: 2 or 4. */
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
  target: number,
  _rows: number,
  _rowsBytes: number,
  _part: number,
  from: number,
  to: number,
): void {
  const fine = [red, green, blue].map((at) => reader(memory, at, bytes))
  const coarse = [coarseRed, coarseGreen, coarseBlue].map((at) => expanded(floats(memory, at), coarseStride, (width + 1) >> 1, coarseHeight))
  const out = floats(memory, target)
  for (let y = from; y < to; y++) {
    for (let x = 0, o = y * stride; x < width; x++, o++) {
      let sum = 0
      for (let c = 0; c < 3; c++) sum += (fine[c](o) - coarse[c](x, y)) ** 2
      out[o] = sum / 3
    }
  }
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
