// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.
import { evenOf, expandDown, firstFour, lastFour, load4, next4, oddOf, rowOf, weightOf } from './memory'

@inline function energyOf<T>(
  red: usize, green: usize, blue: usize, stride: i32, coarseRed: usize, coarseGreen: usize, coarseBlue: usize, coarseStride: i32, coarseHeight: i32,
  width: i32, target: usize, first: usize, from: i32, to: i32,
): void {
  const half = (width + 1) >> 1
  const apart = (<usize>half << 2) + 128
  const second = first + apart
  const third = second + apart
  const shares = f32x4.splat(<f32>(1.0 / 3.0))
  for (let y = from; y < to; y++) {
    expandDown(coarseRed, coarseStride, coarseHeight, half, y, first)
    expandDown(coarseGreen, coarseStride, coarseHeight, half, y, second)
    expandDown(coarseBlue, coarseStride, coarseHeight, half, y, third)
    const row = <usize>(y * stride)
    const end = target + ((row + <usize>width) << 2)
    let i = first - 4
    let r = red + row * sizeof<T>()
    let g = green + row * sizeof<T>()
    let u = blue + row * sizeof<T>()
    for (let out = target + (row << 2); out < end; out += 32, i += 16) {
      let even = evenOf(i)
      let odd = oddOf(i)
      let a = f32x4.sub(load4<T>(r), firstFour(even, odd))
      let b = f32x4.sub(next4<T>(r), lastFour(even, odd))
      let low = f32x4.mul(a, a)
      let high = f32x4.mul(b, b)
      even = evenOf(i + apart)
      odd = oddOf(i + apart)
      a = f32x4.sub(load4<T>(g), firstFour(even, odd))
      b = f32x4.sub(next4<T>(g), lastFour(even, odd))
      low = f32x4.add(low, f32x4.mul(a, a))
      high = f32x4.add(high, f32x4.mul(b, b))
      even = evenOf(i + 2 * apart)
      odd = oddOf(i + 2 * apart)
      a = f32x4.sub(load4<T>(u), firstFour(even, odd))
      b = f32x4.sub(next4<T>(u), lastFour(even, odd))
      low = f32x4.add(low, f32x4.mul(a, a))
      high = f32x4.add(high, f32x4.mul(b, b))
      v128.store(out, f32x4.mul(low, shares))
      v128.store(out, f32x4.mul(high, shares), 16)
      r += 8 * sizeof<T>()
      g += 8 * sizeof<T>()
      u += 8 * sizeof<T>()
    }
  }
}

/** Energy of a band: the mean over the channels of (fine − coarse brought to its size)². `bytes` a place of `fine`: 2 or 4. */
export function energy(
  red: usize, green: usize, blue: usize, bytes: i32, stride: i32,
  coarseRed: usize, coarseGreen: usize, coarseBlue: usize, coarseStride: i32, coarseHeight: i32, width: i32, target: usize,
  rows: usize, rowsBytes: i32, part: i32, from: i32, to: i32,
): void {
  const line = rowOf(rows, rowsBytes, part)
  if (bytes == 2) energyOf<u16>(red, green, blue, stride, coarseRed, coarseGreen, coarseBlue, coarseStride, coarseHeight, width, target, line, from, to)
  else energyOf<f32>(red, green, blue, stride, coarseRed, coarseGreen, coarseBlue, coarseStride, coarseHeight, width, target, line, from, to)
}

/** Energies to weights, in place. */
export function raise(plane: usize, stride: i32, scale: f32, least: f32, power: i32, from: i32, to: i32): void {
  const end = <usize>(to * stride) << 2
  const scales = f32x4.splat(scale)
  const leasts = f32x4.splat(least)
  for (let o = <usize>(from * stride) << 2; o < end; o += 16) v128.store(plane + o, weightOf(v128.load(plane + o), scales, leasts, power))
}
