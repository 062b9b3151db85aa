// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.
import { evenOf, expandDown, firstFour, lastFour, load4, oddOf, rowOf, weightOf } from './memory'

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
    for (let x = 0; x < width; x += 8) {
      const i = <usize>x << 1
      const o = (row + <usize>x) * sizeof<T>()
      const next = o + 4 * sizeof<T>()
      let even = evenOf(first + i)
      let odd = oddOf(first + i)
      let a = f32x4.sub(load4<T>(red + o), firstFour(even, odd))
      let b = f32x4.sub(load4<T>(red + next), lastFour(even, odd))
      let low = f32x4.mul(a, a)
      let high = f32x4.mul(b, b)
      even = evenOf(second + i)
      odd = oddOf(second + i)
      a = f32x4.sub(load4<T>(green + o), firstFour(even, odd))
      b = f32x4.sub(load4<T>(green + next), lastFour(even, odd))
      low = f32x4.add(low, f32x4.mul(a, a))
      high = f32x4.add(high, f32x4.mul(b, b))
      even = evenOf(third + i)
      odd = oddOf(third + i)
      a = f32x4.sub(load4<T>(blue + o), firstFour(even, odd))
      b = f32x4.sub(load4<T>(blue + next), lastFour(even, odd))
      low = f32x4.add(low, f32x4.mul(a, a))
      high = f32x4.add(high, f32x4.mul(b, b))
      const out = target + ((row + <usize>x) << 2)
      v128.store(out, f32x4.mul(low, shares))
      v128.store(out + 16, f32x4.mul(high, shares))
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
