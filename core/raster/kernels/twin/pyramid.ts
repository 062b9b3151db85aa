import { blend, clamp, expanded, floats, mirror, reader } from './memory'

/**
 * A plane smoothed with 1 4 6 4 1, edges mirrored, and halved (Burt & Adelson, 1983), written to `target` or added to it.
 * `bytes` a place: 2 or 4. `rows`, `rowsBytes` and `part` are where compiled threads keep rows of their own.
 */
export function reduce(
  memory: ArrayBuffer,
  source: number,
  bytes: number,
  stride: number,
  width: number,
  height: number,
  target: number,
  targetStride: number,
  add: number,
  _rows: number,
  _rowsBytes: number,
  _part: number,
  from: number,
  to: number,
): void {
  const read = reader(memory, source, bytes)
  const out = floats(memory, target)
  const half = (width + 1) >> 1
  for (let y = from; y < to; y++) {
    const rows = [-2, -1, 0, 1, 2].map((k) => mirror(2 * y + k, height) * stride)
    const line = Float32Array.from({ length: width }, (_, x) =>
      blend(read(rows[0] + x), read(rows[1] + x), read(rows[2] + x), read(rows[3] + x), read(rows[4] + x)),
    )
    for (let x = 0; x < half; x++) {
      const at = (k: number) => line[mirror(2 * x + k, width)]
      const o = y * targetStride + x
      out[o] = (add ? out[o] : 0) + blend(at(-2), at(-1), at(0), at(1), at(2))
    }
  }
}

/** `coarse` brought to twice its size, times `share`, written to `target` or added to it. */
export function expand(
  memory: ArrayBuffer,
  coarse: number,
  coarseStride: number,
  coarseHeight: number,
  target: number,
  stride: number,
  width: number,
  share: number,
  add: number,
  _rows: number,
  _rowsBytes: number,
  _part: number,
  from: number,
  to: number,
): void {
  const value = expanded(floats(memory, coarse), coarseStride, (width + 1) >> 1, coarseHeight)
  const out = floats(memory, target)
  for (let y = from; y < to; y++) {
    for (let x = 0, o = y * stride; x < width; x++, o++) out[o] = (add ? out[o] : 0) + share * value(x, y)
  }
}

/** Binomial smoothing 1 4 6 4 1 (a Gaussian of σ = 1), edges repeated. */
export function smooth(
  memory: ArrayBuffer,
  source: number,
  stride: number,
  width: number,
  height: number,
  target: number,
  _rows: number,
  _rowsBytes: number,
  _part: number,
  from: number,
  to: number,
): void {
  const read = floats(memory, source)
  const out = floats(memory, target)
  for (let y = from; y < to; y++) {
    const rows = [-2, -1, 0, 1, 2].map((k) => clamp(y + k, height) * stride)
    const line = Float32Array.from({ length: width }, (_, x) =>
      blend(read[rows[0] + x], read[rows[1] + x], read[rows[2] + x], read[rows[3] + x], read[rows[4] + x]),
    )
    for (let x = 0; x < width; x++) {
      const at = (k: number) => line[clamp(x + k, width)]
      out[y * stride + x] = blend(at(-2), at(-1), at(0), at(1), at(2))
    }
  }
}

/** Light below which noise no longer falls, on 0 … 1. */
export const FAINT = 0.03

/**
 * Half the difference of the neighbours, across and down, and how strong it is without a `share` of what `soft` shows too: its square
 * beside the variance of photon noise, which grows with the light; nothing at the border. `source` is in linear light.
 */
export function gradients(
  memory: ArrayBuffer,
  source: number,
  soft: number,
  share: number,
  stride: number,
  width: number,
  height: number,
  gx: number,
  gy: number,
  strength: number,
  from: number,
  to: number,
): void {
  const [read, smoothed] = [source, soft].map((at) => floats(memory, at))
  const [across, down, strengths] = [gx, gy, strength].map((at) => floats(memory, at))
  for (let y = from; y < to; y++) {
    for (let x = 0, i = y * stride; x < width; x++, i++) {
      const inside = x > 0 && y > 0 && x < width - 1 && y < height - 1
      across[i] = inside ? 0.5 * (read[i + 1] - read[i - 1]) : 0
      down[i] = inside ? 0.5 * (read[i + stride] - read[i - stride]) : 0
      const fineAcross = inside ? across[i] - 0.5 * share * (smoothed[i + 1] - smoothed[i - 1]) : 0
      const fineDown = inside ? down[i] - 0.5 * share * (smoothed[i + stride] - smoothed[i - stride]) : 0
      strengths[i] = (fineAcross ** 2 + fineDown ** 2) / (Math.max(read[i], 0) + FAINT)
    }
  }
}
