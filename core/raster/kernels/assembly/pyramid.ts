// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.
import { blend5, clampIndex, evenOf, expandDown, firstFour, lastFour, mirror, oddOf, rowOf, UNIT16 } from './memory'

/** Five rows blended 1 4 6 4 1 into one. */
@inline function blendDown(r0: usize, r1: usize, r2: usize, r3: usize, r4: usize, line: usize, width: i32): void {
  const end = line + (<usize>width << 2)
  for (let p = line; p < end; p += 32) {
    v128.store(p, blend5(v128.load(r0), v128.load(r1), v128.load(r2), v128.load(r3), v128.load(r4)))
    v128.store(p, blend5(v128.load(r0, 16), v128.load(r1, 16), v128.load(r2, 16), v128.load(r3, 16), v128.load(r4, 16)), 16)
    r0 += 32
    r1 += 32
    r2 += 32
    r3 += 32
    r4 += 32
  }
}

/** Four sums 1 4 6 4 1 of whole numbers. */
@inline function wholeBlend5(a: v128, b: v128, c: v128, d: v128, e: v128): v128 {
  const inner = i32x4.add(i32x4.add(b, d), c)
  return i32x4.add(i32x4.add(i32x4.add(a, e), i32x4.shl(inner, 2)), i32x4.add(c, c))
}

/** Five rows of 16 bits blended 1 4 6 4 1 into one of 0 … 1: as whole numbers, which is quicker than bringing each to 0 … 1 first. */
@inline function blendDown16(r0: usize, r1: usize, r2: usize, r3: usize, r4: usize, line: usize, width: i32): void {
  const end = line + (<usize>width << 2)
  const unit = f32x4.splat(UNIT16 / 16)
  for (let p = line; p < end; p += 32) {
    const low = wholeBlend5(v128.load16x4_u(r0), v128.load16x4_u(r1), v128.load16x4_u(r2), v128.load16x4_u(r3), v128.load16x4_u(r4))
    const high = wholeBlend5(v128.load16x4_u(r0, 8), v128.load16x4_u(r1, 8), v128.load16x4_u(r2, 8), v128.load16x4_u(r3, 8), v128.load16x4_u(r4, 8))
    v128.store(p, f32x4.mul(unit, f32x4.convert_i32x4_s(low)))
    v128.store(p, f32x4.mul(unit, f32x4.convert_i32x4_s(high)), 16)
    r0 += 16
    r1 += 16
    r2 += 16
    r3 += 16
    r4 += 16
  }
}

@inline function blendRows<T>(r0: usize, r1: usize, r2: usize, r3: usize, r4: usize, line: usize, width: i32): void {
  if (sizeof<T>() == 2) blendDown16(r0, r1, r2, r3, r4, line, width)
  else blendDown(r0, r1, r2, r3, r4, line, width)
}

@inline function reduceOf<T>(source: usize, stride: i32, width: i32, height: i32, target: usize, targetStride: i32, add: i32, line: usize, from: i32, to: i32): void {
  const bytes = <usize>stride * sizeof<T>()
  const half = (width + 1) >> 1
  for (let y = from; y < to; y++) {
    const c = 2 * y
    blendRows<T>(
      source + <usize>mirror(c - 2, height) * bytes,
      source + <usize>mirror(c - 1, height) * bytes,
      source + <usize>mirror(c, height) * bytes,
      source + <usize>mirror(c + 1, height) * bytes,
      source + <usize>mirror(c + 2, height) * bytes,
      line,
      width,
    )
    for (let k = 1; k <= 2; k++) {
      store<f32>(line - (<usize>k << 2), load<f32>(line + (<usize>mirror(-k, width) << 2)))
      store<f32>(line + (<usize>(width - 1 + k) << 2), load<f32>(line + (<usize>mirror(width - 1 + k, width) << 2)))
    }
    const out = target + (<usize>(y * targetStride) << 2)
    for (let x = 0; x < half; x += 4) {
      const i = line - 8 + (<usize>x << 3)
      const before = v128.load(i)
      const here = v128.load(i, 8)
      const next = v128.load(i, 16)
      const after = v128.load(i, 24)
      const last = v128.load(i, 32)
      const value = blend5(
        v128.shuffle<f32>(before, next, 0, 2, 4, 6),
        v128.shuffle<f32>(before, next, 1, 3, 5, 7),
        v128.shuffle<f32>(here, after, 0, 2, 4, 6),
        v128.shuffle<f32>(here, after, 1, 3, 5, 7),
        v128.shuffle<f32>(next, last, 0, 2, 4, 6),
      )
      const p = out + (<usize>x << 2)
      v128.store(p, add ? f32x4.add(v128.load(p), value) : value)
    }
  }
}

/** A plane smoothed with 1 4 6 4 1, edges mirrored, and halved; written to `target` or added to it. `bytes` a place: 2 or 4. */
export function reduce(
  source: usize, bytes: i32, stride: i32, width: i32, height: i32, target: usize, targetStride: i32, add: i32,
  rows: usize, rowsBytes: i32, part: i32, from: i32, to: i32,
): void {
  const line = rowOf(rows, rowsBytes, part)
  if (bytes == 2) reduceOf<u16>(source, stride, width, height, target, targetStride, add, line, from, to)
  else reduceOf<f32>(source, stride, width, height, target, targetStride, add, line, from, to)
}

/** `coarse` brought to twice its size, times `share`, written to `target` or added to it. */
export function expand(
  coarse: usize, coarseStride: i32, coarseHeight: i32, target: usize, stride: i32, width: i32, share: f32, add: i32,
  rows: usize, rowsBytes: i32, part: i32, from: i32, to: i32,
): void {
  const line = rowOf(rows, rowsBytes, part)
  const shares = f32x4.splat(share)
  for (let y = from; y < to; y++) {
    expandDown(coarse, coarseStride, coarseHeight, (width + 1) >> 1, y, line)
    const out = target + (<usize>(y * stride) << 2)
    for (let x = 0; x < width; x += 8) {
      const i = line - 4 + (<usize>x << 1)
      const even = f32x4.mul(shares, evenOf(i))
      const odd = f32x4.mul(shares, oddOf(i))
      const p = out + (<usize>x << 2)
      const low = firstFour(even, odd)
      const high = lastFour(even, odd)
      v128.store(p, add ? f32x4.add(v128.load(p), low) : low)
      v128.store(p + 16, add ? f32x4.add(v128.load(p + 16), high) : high)
    }
  }
}

/** Five rows smoothed into one, which goes to `out`; `line` is a row of the part's own. */
@inline export function smoothRow(r0: usize, r1: usize, r2: usize, r3: usize, r4: usize, line: usize, width: i32, out: usize): void {
  blendDown(r0, r1, r2, r3, r4, line, width)
  const last = line + (<usize>(width - 1) << 2)
  for (let k: usize = 4; k <= 8; k += 4) {
    store<f32>(line - k, load<f32>(line))
    store<f32>(last + k, load<f32>(last))
  }
  const end = line - 8 + (<usize>width << 2)
  let o = out
  for (let i = line - 8; i < end; i += 32, o += 32) {
    v128.store(o, blend5(v128.load(i), v128.load(i, 4), v128.load(i, 8), v128.load(i, 12), v128.load(i, 16)))
    v128.store(o, blend5(v128.load(i, 16), v128.load(i, 20), v128.load(i, 24), v128.load(i, 28), v128.load(i, 32)), 16)
  }
}

/** Binomial smoothing 1 4 6 4 1 (a Gaussian of σ = 1), edges repeated. */
export function smooth(
  source: usize, stride: i32, width: i32, height: i32, target: usize, rows: usize, rowsBytes: i32, part: i32, from: i32, to: i32,
): void {
  const line = rowOf(rows, rowsBytes, part)
  const bytes = <usize>stride << 2
  for (let y = from; y < to; y++)
    smoothRow(
      source + <usize>clampIndex(y - 2, height) * bytes,
      source + <usize>clampIndex(y - 1, height) * bytes,
      source + <usize>y * bytes,
      source + <usize>clampIndex(y + 1, height) * bytes,
      source + <usize>clampIndex(y + 2, height) * bytes,
      line,
      width,
      target + <usize>y * bytes,
    )
}

/** Light below which noise no longer falls. */
const FAINT: f32 = 0.03

/** Half the difference of the neighbours, across and down, and how strong it is beside the noise without a `share` of what `soft` shows too; nothing at the border. */
export function gradients(
  source: usize, soft: usize, share: f32, stride: i32, width: i32, height: i32, gx: usize, gy: usize, strength: usize, from: i32, to: i32,
): void {
  const bytes = <usize>stride << 2
  const half = f32x4.splat(0.5)
  const softer = f32x4.splat(0.5 * share)
  for (let y = from; y < to; y++) {
    const row = <usize>y * bytes
    const inside = y > 0 && y < height - 1
    for (let x = 0; x < width; x += 4) {
      const o = row + (<usize>x << 2)
      if (!inside) {
        v128.store(gx + o, f32x4.splat(0))
        v128.store(gy + o, f32x4.splat(0))
        v128.store(strength + o, f32x4.splat(0))
        continue
      }
      const across = f32x4.mul(half, f32x4.sub(v128.load(source + o + 4), v128.load(source + o - 4)))
      const down = f32x4.mul(half, f32x4.sub(v128.load(source + o + bytes), v128.load(source + o - bytes)))
      v128.store(gx + o, across)
      v128.store(gy + o, down)
      const fineAcross = f32x4.sub(across, f32x4.mul(softer, f32x4.sub(v128.load(soft + o + 4), v128.load(soft + o - 4))))
      const fineDown = f32x4.sub(down, f32x4.mul(softer, f32x4.sub(v128.load(soft + o + bytes), v128.load(soft + o - bytes))))
      const squares = f32x4.add(f32x4.mul(fineAcross, fineAcross), f32x4.mul(fineDown, fineDown))
      v128.store(strength + o, f32x4.div(squares, f32x4.add(f32x4.max(v128.load(source + o), f32x4.splat(0)), f32x4.splat(FAINT))))
    }
    if (!inside) continue
    const first = row
    const last = row + (<usize>(width - 1) << 2)
    store<f32>(gx + first, 0)
    store<f32>(gy + first, 0)
    store<f32>(strength + first, 0)
    store<f32>(gx + last, 0)
    store<f32>(gy + last, 0)
    store<f32>(strength + last, 0)
  }
}
