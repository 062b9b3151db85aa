// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.
import { clampIndex, evenOf, expandDown, firstFour, lastFour, load4, next4, oddOf, ROOM, rowOf, weightOf } from './memory'
import { smoothRow } from './pyramid'

/** Row `y` of a band's energy, to `target`. Three coarse rows are expanded into `first` and what lies `apart` behind it. */
@inline function energyRow<T>(
  red: usize, green: usize, blue: usize, stride: i32, coarseRed: usize, coarseGreen: usize, coarseBlue: usize, coarseStride: i32, coarseHeight: i32,
  width: i32, y: i32, target: usize, first: usize, apart: usize,
): void {
  const half = (width + 1) >> 1
  const shares = f32x4.splat(<f32>(1.0 / 3.0))
  expandDown(coarseRed, coarseStride, coarseHeight, half, y, first)
  expandDown(coarseGreen, coarseStride, coarseHeight, half, y, first + apart)
  expandDown(coarseBlue, coarseStride, coarseHeight, half, y, first + 2 * apart)
  const row = <usize>(y * stride) * sizeof<T>()
  const end = target + (<usize>width << 2)
  let i = first - 4
  let r = red + row
  let g = green + row
  let u = blue + row
  for (let out = target; out < end; out += 32, i += 16) {
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

@inline function energyOf<T>(
  red: usize, green: usize, blue: usize, stride: i32, coarseRed: usize, coarseGreen: usize, coarseBlue: usize, coarseStride: i32, coarseHeight: i32,
  width: i32, height: i32, smoothings: i32, target: usize, first: usize, from: i32, to: i32,
): void {
  const apart = (<usize>((width + 1) >> 1) << 2) + 128
  const bytes = <usize>stride << 2
  // Behind the expanded rows: one to blend in, and for each smoothing the five rows that its next one is made of.
  const line = first + 3 * apart + ROOM
  const rowBytes = bytes + 2 * ROOM
  const rings = line + rowBytes
  const lastRow = min(height, to + 2 * smoothings)
  // Every row of energies moves each smoothing on by a row, two behind the one before it.
  for (let t = max(0, from - 2 * smoothings); t < to + 2 * smoothings; t++) {
    if (t < lastRow) {
      const out = smoothings == 0 ? target + <usize>t * bytes : rings + <usize>(t % 5) * rowBytes
      energyRow<T>(red, green, blue, stride, coarseRed, coarseGreen, coarseBlue, coarseStride, coarseHeight, width, t, out, first, apart)
    }
    for (let s = 1; s <= smoothings; s++) {
      const y = t - 2 * s
      if (y < max(0, from - 2 * (smoothings - s)) || y >= min(height, to + 2 * (smoothings - s))) continue
      const ring = rings + <usize>(5 * (s - 1)) * rowBytes
      smoothRow(
        ring + <usize>(clampIndex(y - 2, height) % 5) * rowBytes,
        ring + <usize>(clampIndex(y - 1, height) % 5) * rowBytes,
        ring + <usize>(y % 5) * rowBytes,
        ring + <usize>(clampIndex(y + 1, height) % 5) * rowBytes,
        ring + <usize>(clampIndex(y + 2, height) % 5) * rowBytes,
        line,
        width,
        s == smoothings ? target + <usize>y * bytes : ring + <usize>(5 + y % 5) * rowBytes,
      )
    }
  }
}

/**
 * Energy of a band: the mean over the channels of (fine − coarse brought to its size)², smoothed so many times (see `smooth`). `bytes` a place of
 * `fine`: 2 or 4.
 */
export function energy(
  red: usize, green: usize, blue: usize, bytes: i32, stride: i32,
  coarseRed: usize, coarseGreen: usize, coarseBlue: usize, coarseStride: i32, coarseHeight: i32, width: i32, height: i32, smoothings: i32, target: usize,
  rows: usize, rowsBytes: i32, part: i32, from: i32, to: i32,
): void {
  const line = rowOf(rows, rowsBytes, part)
  if (bytes == 2)
    energyOf<u16>(red, green, blue, stride, coarseRed, coarseGreen, coarseBlue, coarseStride, coarseHeight, width, height, smoothings, target, line, from, to)
  else
    energyOf<f32>(red, green, blue, stride, coarseRed, coarseGreen, coarseBlue, coarseStride, coarseHeight, width, height, smoothings, target, line, from, to)
}

/** Energies to weights, in place. */
export function raise(plane: usize, stride: i32, scale: f32, least: f32, power: i32, from: i32, to: i32): void {
  const end = <usize>(to * stride) << 2
  const scales = f32x4.splat(scale)
  const leasts = f32x4.splat(least)
  for (let o = <usize>(from * stride) << 2; o < end; o += 16) v128.store(plane + o, weightOf(v128.load(plane + o), scales, leasts, power))
}
