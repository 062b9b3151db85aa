// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.

/** Places left free on both sides of a part's own row. */
export const ROOM: usize = 64

export const UNIT16: f32 = 1.0 / 65535.0

@inline export function clampIndex(i: i32, size: i32): i32 { return i < 0 ? 0 : i >= size ? size - 1 : i }
@inline export function mirror(i: i32, size: i32): i32 {
  if (size == 1) return 0
  const folded = i < 0 ? -i : i >= size ? 2 * size - 2 - i : i
  return min(max(folded, 0), size - 1)
}

/** Four places of a plane, as 0 … 1. */
@inline export function load4<T>(p: usize): v128 {
  if (sizeof<T>() == 2) return f32x4.mul(f32x4.convert_i32x4_s(v128.load16x4_u(p)), f32x4.splat(UNIT16))
  return v128.load(p)
}

/** The four after those. */
@inline export function next4<T>(p: usize): v128 {
  if (sizeof<T>() == 2) return f32x4.mul(f32x4.convert_i32x4_s(v128.load16x4_u(p, 8)), f32x4.splat(UNIT16))
  return v128.load(p, 16)
}

@inline export function blend5(a: v128, b: v128, c: v128, d: v128, e: v128): v128 {
  const outer = f32x4.add(a, e)
  const inner = f32x4.mul(f32x4.add(b, d), f32x4.splat(4))
  return f32x4.mul(f32x4.add(f32x4.add(outer, inner), f32x4.mul(c, f32x4.splat(6))), f32x4.splat(0.0625))
}

/** Floats below 2^22 rounded to whole numbers: beyond 2^23 floats are whole, and their last bits are the number; quicker than a conversion that minds every case. */
@inline export function rounded(v: v128): v128 {
  return i32x4.sub(f32x4.add(v, f32x4.splat(12582912)), i32x4.splat(0x4b400000))
}

/** A part's own row: where its first place lies. */
@inline export function rowOf(rows: usize, rowsBytes: i32, part: i32): usize { return rows + <usize>part * <usize>rowsBytes + ROOM }

/** Row `y` of a coarse plane brought to twice its height, into `line`, its edges repeated. */
@inline export function expandDown(coarse: usize, stride: i32, height: i32, width: i32, y: i32, line: usize): void {
  const j = y >> 1
  const bytes = <usize>stride << 2
  const here = coarse + <usize>j * bytes
  const below = coarse + <usize>min(j + 1, height - 1) * bytes
  const end = <usize>width << 2
  let h = here
  let b = below
  if (y & 1) {
    const half = f32x4.splat(0.5)
    for (let p = line; p < line + end; p += 32, h += 32, b += 32) {
      v128.store(p, f32x4.mul(half, f32x4.add(v128.load(h), v128.load(b))))
      v128.store(p, f32x4.mul(half, f32x4.add(v128.load(h, 16), v128.load(b, 16))), 16)
    }
  } else {
    const outer = f32x4.splat(0.125)
    const inner = f32x4.splat(0.75)
    let a = coarse + <usize>max(j - 1, 0) * bytes
    for (let p = line; p < line + end; p += 32, h += 32, b += 32, a += 32) {
      v128.store(p, f32x4.add(f32x4.mul(outer, f32x4.add(v128.load(a), v128.load(b))), f32x4.mul(inner, v128.load(h))))
      v128.store(p, f32x4.add(f32x4.mul(outer, f32x4.add(v128.load(a, 16), v128.load(b, 16))), f32x4.mul(inner, v128.load(h, 16))), 16)
    }
  }
  store<f32>(line - 4, load<f32>(line))
  store<f32>(line + end, load<f32>(line + end - 4))
}

/** Four places of such a row at even and at odd places of twice the width; `before` is the place before them. */
@inline export function evenOf(before: usize): v128 {
  return f32x4.add(f32x4.mul(f32x4.splat(0.125), f32x4.add(v128.load(before), v128.load(before, 8))), f32x4.mul(f32x4.splat(0.75), v128.load(before, 4)))
}
@inline export function oddOf(before: usize): v128 { return f32x4.mul(f32x4.splat(0.5), f32x4.add(v128.load(before, 4), v128.load(before, 8))) }
@inline export function firstFour(even: v128, odd: v128): v128 { return v128.shuffle<f32>(even, odd, 0, 4, 1, 5) }
@inline export function lastFour(even: v128, odd: v128): v128 { return v128.shuffle<f32>(even, odd, 2, 6, 3, 7) }

/** Energy to weight: (energy × scale + least) to a whole power; the energy as it is where the power is 0. */
@inline export function weightOf(energy: v128, scale: v128, least: v128, power: i32): v128 {
  if (power == 0) return energy
  const ratio = f32x4.add(f32x4.mul(energy, scale), least)
  if (power == 4) {
    const square = f32x4.mul(ratio, ratio)
    return f32x4.mul(square, square)
  }
  let weight = ratio
  for (let k = 1; k < power; k++) weight = f32x4.mul(weight, ratio)
  return weight
}
