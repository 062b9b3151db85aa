import { clamp, floats } from './memory'

/** A plane softened along its rows by an uneven count of `taps` (f32), its edge repeated. */
export function softenAlong(
  memory: ArrayBuffer,
  source: number,
  target: number,
  stride: number,
  width: number,
  taps: number,
  count: number,
  from: number,
  to: number,
): void {
  const [plane, out, weights] = [floats(memory, source), floats(memory, target), floats(memory, taps)]
  for (let y = from; y < to; y++) {
    for (let x = 0; x < width; x++) {
      let sum = 0
      for (let k = 0; k < count; k++) sum += weights[k] * plane[y * stride + clamp(x + k - (count >> 1), width)]
      out[y * stride + x] = sum
    }
  }
}

/** The same along its columns. */
export function softenDown(
  memory: ArrayBuffer,
  source: number,
  target: number,
  stride: number,
  height: number,
  taps: number,
  count: number,
  from: number,
  to: number,
): void {
  const [plane, out, weights] = [floats(memory, source), floats(memory, target), floats(memory, taps)]
  for (let y = from; y < to; y++) {
    for (let x = 0; x < stride; x++) {
      let sum = 0
      for (let k = 0; k < count; k++) sum += weights[k] * plane[clamp(y + k - (count >> 1), height) * stride + x]
      out[y * stride + x] = sum
    }
  }
}

/** The numbers of `randomStream` (core/simulate) without their state: the one after `state`, in [0, 2^32). */
function mixed(state: number): number {
  let t = Math.imul(state ^ (state >>> 15), state | 1)
  t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
  return (t ^ (t >>> 14)) >>> 0
}

const STEP = 0x6d2b79f5

/**
 * Light to encoded values, in place: photons by `perLight`, photon and read noise, what part of `fullWell` that is, and its
 * code. `normal` holds 65536 quantiles of the normal distribution, `encoded` 4098 codes of a value in steps of 1/4096; chance
 * is the stream of `seed`, from its number `index` on.
 */
export function develop(
  memory: ArrayBuffer,
  plane: number,
  stride: number,
  width: number,
  perLight: number,
  readNoise: number,
  fullWell: number,
  seed: number,
  index: number,
  normal: number,
  encoded: number,
  from: number,
  to: number,
): void {
  const [values, quantiles, codes] = [floats(memory, plane), floats(memory, normal), floats(memory, encoded)]
  for (let y = from; y < to; y++) {
    for (let x = 0; x < width; x++) {
      const state = (seed + Math.imul(index + y * width + x + 1, STEP)) | 0
      const photons = Math.max(0, values[y * stride + x] * perLight)
      const value = (photons + quantiles[mixed(state) >>> 16] * Math.sqrt(photons + readNoise ** 2)) / fullWell
      const k = Math.floor(value * 4096)
      const between = () => codes[k] + (value * 4096 - k) * (codes[k + 1] - codes[k])
      values[y * stride + x] = value >= 1 ? 1 : value > 0.0031308 ? between() : Math.max(0, 12.92 * value)
    }
  }
}
