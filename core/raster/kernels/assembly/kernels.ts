// The kernels in AssemblyScript, with 128-bit SIMD. `../twin.ts` is the same in plain TypeScript, and what tests compare with.
// Planes are rows of f32 at a byte offset. Every kernel works on rows `from` … `to` (exclusive) of its result, so that
// several threads share one call. A row's arithmetic is the same whoever does it.

// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.

@inline function at(plane: usize, index: i32): usize { return plane + (<usize>index << 2) }
@inline function clampIndex(i: i32, size: i32): i32 { return i < 0 ? 0 : i >= size ? size - 1 : i }
@inline function mirror(i: i32, size: i32): i32 {
  if (size == 1) return 0
  const folded = i < 0 ? -i : i >= size ? 2 * size - 2 - i : i
  return min(max(folded, 0), size - 1)
}

/** Columns that one vertical phase is taken for: a turn of half a degree moves them by 0.02 px. */
const GROUP: i32 = 4
/** Places on both sides of a row for the edge repeated. */
const EDGE: i32 = 4
/** Places are counted in 1024ths from so far before the picture that they are never negative: one cut gives pixel and phase. */
const BEFORE: i32 = 16384

/**
 * Interleaved RGB samples, 8 or 16 bits, to three planes at A p + start (see the twin): columns first, into the row buffer
 * of this part of the rows, then along the row. `taps` holds 1025 × 4 weights.
 */
export function warpSamples(
  samples: usize, wide: i32, red: usize, green: usize, blue: usize, width: i32, height: i32, a: f64, b: f64, startX: f64, startY: f64,
  gain: f32, taps: usize, buffers: usize, parts: i32, from: i32, to: i32,
): void {
  const length = (width + 2 * EDGE) * 3
  const part = (from * parts + (height >> 1)) / height
  const buffer = buffers + <usize>part * <usize>((length + 16) << 2)
  const first = buffer + <usize>(EDGE * 12)
  const bytes: usize = wide ? 6 : 3
  const stride = <usize>width * bytes
  const slope = b / a
  const stepV = slope * 4096
  const stepU = a * 1024
  for (let y = from; y < to; y++) {
    const rowX = startX - b * <f64>y
    const rowY = startY + a * <f64>y
    let v = (rowY + slope * (1.5 - rowX) + <f64>BEFORE) * 1024 + 0.5
    for (let s = 0; s < width; s += GROUP, v += stepV) {
      const place = <i32>v
      const iy = (place >> 10) - BEFORE
      const tap = taps + (<usize>(place & 1023) << 4)
      const r0 = samples + <usize>clampIndex(iy - 1, height) * stride + <usize>s * bytes
      const r1 = samples + <usize>clampIndex(iy, height) * stride + <usize>s * bytes
      const r2 = samples + <usize>clampIndex(iy + 1, height) * stride + <usize>s * bytes
      const r3 = samples + <usize>clampIndex(iy + 2, height) * stride + <usize>s * bytes
      const w0 = f32x4.splat(load<f32>(tap) * gain)
      const w1 = f32x4.splat(load<f32>(tap + 4) * gain)
      const w2 = f32x4.splat(load<f32>(tap + 8) * gain)
      const w3 = f32x4.splat(load<f32>(tap + 12) * gain)
      const out = first + <usize>(12 * s)
      if (wide) {
        for (let k: usize = 0; k < 3; k++) {
          const o = k << 3
          let sum = f32x4.mul(f32x4.convert_i32x4_u(v128.load16x4_u(r0 + o)), w0)
          sum = f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_u(v128.load16x4_u(r1 + o)), w1))
          sum = f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_u(v128.load16x4_u(r2 + o)), w2))
          sum = f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_u(v128.load16x4_u(r3 + o)), w3))
          v128.store(out + (k << 4), sum)
        }
      } else {
        const h0 = v128.load8x8_u(r0)
        const h1 = v128.load8x8_u(r1)
        const h2 = v128.load8x8_u(r2)
        const h3 = v128.load8x8_u(r3)
        let sum = f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(h0)), w0)
        sum = f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(h1)), w1))
        sum = f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(h2)), w2))
        sum = f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(h3)), w3))
        v128.store(out, sum)
        sum = f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_high_i16x8_u(h0)), w0)
        sum = f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_high_i16x8_u(h1)), w1))
        sum = f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_high_i16x8_u(h2)), w2))
        sum = f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_high_i16x8_u(h3)), w3))
        v128.store(out + 16, sum)
        sum = f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(v128.load8x8_u(r0 + 8))), w0)
        sum = f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(v128.load8x8_u(r1 + 8))), w1))
        sum = f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(v128.load8x8_u(r2 + 8))), w2))
        sum = f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(v128.load8x8_u(r3 + 8))), w3))
        v128.store(out + 32, sum)
      }
    }
    const lastColumn = first + <usize>(12 * (width - 1))
    for (let k = 1; k <= EDGE; k++) {
      for (let c: usize = 0; c < 12; c += 4) {
        store<f32>(first - <usize>(12 * k) + c, load<f32>(first + c))
        store<f32>(lastColumn + <usize>(12 * k) + c, load<f32>(lastColumn + c))
      }
    }
    let u = (rowX + <f64>BEFORE) * 1024 + 0.5
    let o = <usize>(y * width) << 2
    for (let x = 0; x < width; x++, u += stepU, o += 4) {
      const place = <i32>u
      const ix = min(max((place >> 10) - BEFORE, -2), width)
      const tap = v128.load(taps + (<usize>(place & 1023) << 4))
      const line = first + <usize>(12 * (ix - 1))
      const p0 = f32x4.mul(v128.load(line), v128.shuffle<f32>(tap, tap, 0, 0, 0, 1))
      const p1 = f32x4.mul(v128.load(line + 16), v128.shuffle<f32>(tap, tap, 1, 1, 2, 2))
      const p2 = f32x4.mul(v128.load(line + 32), v128.shuffle<f32>(tap, tap, 2, 3, 3, 3))
      const sum = f32x4.add(
        f32x4.add(p0, v128.shuffle<f32>(p0, p1, 3, 4, 5, 3)),
        f32x4.add(v128.shuffle<f32>(p1, p2, 2, 3, 4, 2), v128.shuffle<f32>(p2, p2, 1, 2, 3, 0)),
      )
      v128.store_lane<f32>(red + o, sum, 0)
      v128.store_lane<f32>(green + o, sum, 1)
      v128.store_lane<f32>(blue + o, sum, 2)
    }
  }
}

@inline function blend5(a: v128, b: v128, c: v128, d: v128, e: v128): v128 {
  const outer = f32x4.add(a, e)
  const inner = f32x4.mul(f32x4.add(b, d), f32x4.splat(4))
  return f32x4.mul(f32x4.add(f32x4.add(outer, inner), f32x4.mul(c, f32x4.splat(6))), f32x4.splat(0.0625))
}
@inline function blend5s(a: f32, b: f32, c: f32, d: f32, e: f32): f32 { return (a + e + (b + d) * 4 + c * 6) * 0.0625 }

/** Rows of half the width, smoothed with 1 4 6 4 1, edges mirrored: the first half of a reduction. */
export function reduceRows(source: usize, width: i32, target: usize, from: i32, to: i32): void {
  const half = (width + 1) >> 1
  for (let y = from; y < to; y++) {
    const row = at(source, y * width)
    const out = at(target, y * half)
    let x = 0
    while (x < half) {
      const c = 2 * x
      if (c >= 2 && c + 10 <= width) {
        const i = row + (<usize>c << 2)
        const before = v128.load(i - 8)
        const here = v128.load(i)
        const next = v128.load(i + 8)
        const after = v128.load(i + 16)
        const last = v128.load(i + 24)
        v128.store(
          out + (<usize>x << 2),
          blend5(
            v128.shuffle<f32>(before, next, 0, 2, 4, 6),
            v128.shuffle<f32>(before, next, 1, 3, 5, 7),
            v128.shuffle<f32>(here, after, 0, 2, 4, 6),
            v128.shuffle<f32>(here, after, 1, 3, 5, 7),
            v128.shuffle<f32>(next, last, 0, 2, 4, 6),
          ),
        )
        x += 4
      } else {
        store<f32>(
          out + (<usize>x << 2),
          blend5s(
            load<f32>(row + (<usize>mirror(c - 2, width) << 2)),
            load<f32>(row + (<usize>mirror(c - 1, width) << 2)),
            load<f32>(row + (<usize>mirror(c, width) << 2)),
            load<f32>(row + (<usize>mirror(c + 1, width) << 2)),
            load<f32>(row + (<usize>mirror(c + 2, width) << 2)),
          ),
        )
        x++
      }
    }
  }
}

/** Five rows blended 1 4 6 4 1 into one. */
@inline function blendRows(r0: usize, r1: usize, r2: usize, r3: usize, r4: usize, out: usize, count: i32): void {
  let x = 0
  for (; x + 4 <= count; x += 4) {
    const o = <usize>x << 2
    v128.store(out + o, blend5(v128.load(r0 + o), v128.load(r1 + o), v128.load(r2 + o), v128.load(r3 + o), v128.load(r4 + o)))
  }
  for (; x < count; x++) {
    const o = <usize>x << 2
    store<f32>(out + o, blend5s(load<f32>(r0 + o), load<f32>(r1 + o), load<f32>(r2 + o), load<f32>(r3 + o), load<f32>(r4 + o)))
  }
}

/** The second half of a reduction: every other row of `source` (half × height). */
export function reduceColumns(source: usize, half: i32, height: i32, target: usize, from: i32, to: i32): void {
  for (let y = from; y < to; y++) {
    const c = 2 * y
    blendRows(
      at(source, mirror(c - 2, height) * half),
      at(source, mirror(c - 1, height) * half),
      at(source, mirror(c, height) * half),
      at(source, mirror(c + 1, height) * half),
      at(source, mirror(c + 2, height) * half),
      at(target, y * half),
      half,
    )
  }
}

/** Rows of twice the width (of `width` places), interpolated: the first half of an expansion. */
export function expandRows(source: usize, sourceWidth: i32, target: usize, width: i32, from: i32, to: i32): void {
  const eighth = f32x4.splat(0.125)
  const three = f32x4.splat(0.75)
  const two = f32x4.splat(0.5)
  for (let y = from; y < to; y++) {
    const row = at(source, y * sourceWidth)
    const out = at(target, y * width)
    let x = 0
    while (x < width) {
      const i = x >> 1
      if (!(x & 1) && i >= 1 && i + 5 <= sourceWidth && x + 8 <= width) {
        const p = row + (<usize>i << 2)
        const before = v128.load(p - 4)
        const here = v128.load(p)
        const right = v128.load(p + 4)
        const even = f32x4.add(f32x4.mul(eighth, f32x4.add(before, right)), f32x4.mul(three, here))
        const odd = f32x4.mul(two, f32x4.add(here, right))
        v128.store(out + (<usize>x << 2), v128.shuffle<f32>(even, odd, 0, 4, 1, 5))
        v128.store(out + (<usize>x << 2) + 16, v128.shuffle<f32>(even, odd, 2, 6, 3, 7))
        x += 8
      } else {
        const right = load<f32>(row + (<usize>min(i + 1, sourceWidth - 1) << 2))
        const here = load<f32>(row + (<usize>i << 2))
        store<f32>(out + (<usize>x << 2), x & 1 ? <f32>0.5 * (here + right) : <f32>0.125 * (load<f32>(row + (<usize>max(i - 1, 0) << 2)) + right) + <f32>0.75 * here)
        x++
      }
    }
  }
}

/** What the second half of an expansion does with the expanded plane: see the modes of `expandColumns`. */
const SUBTRACT_FROM = 0
const ADD_SHARE = 1
const WRITE = 2

/**
 * The second half of an expansion, of rows (width × sourceHeight). Mode 0: target = other − expanded; 1: target +=
 * share × expanded; 2: target = expanded.
 */
export function expandColumns(source: usize, sourceHeight: i32, other: usize, target: usize, width: i32, mode: i32, share: f32, from: i32, to: i32): void {
  const shares = f32x4.splat(share)
  for (let y = from; y < to; y++) {
    const j = y >> 1
    const here = at(source, j * width)
    const below = at(source, min(j + 1, sourceHeight - 1) * width)
    const above = at(source, max(j - 1, 0) * width)
    const odd = y & 1
    let o = <usize>(y * width) << 2
    let k: usize = 0
    let x = 0
    for (; x + 4 <= width; x += 4, k += 16, o += 16) {
      const value = odd
        ? f32x4.mul(f32x4.splat(0.5), f32x4.add(v128.load(here + k), v128.load(below + k)))
        : f32x4.add(f32x4.mul(f32x4.splat(0.125), f32x4.add(v128.load(above + k), v128.load(below + k))), f32x4.mul(f32x4.splat(0.75), v128.load(here + k)))
      if (mode == SUBTRACT_FROM) v128.store(target + o, f32x4.sub(v128.load(other + o), value))
      else if (mode == ADD_SHARE) v128.store(target + o, f32x4.add(v128.load(target + o), f32x4.mul(shares, value)))
      else v128.store(target + o, value)
    }
    for (; x < width; x++, k += 4, o += 4) {
      const value: f32 = odd
        ? <f32>0.5 * (load<f32>(here + k) + load<f32>(below + k))
        : <f32>0.125 * (load<f32>(above + k) + load<f32>(below + k)) + <f32>0.75 * load<f32>(here + k)
      if (mode == SUBTRACT_FROM) store<f32>(target + o, load<f32>(other + o) - value)
      else if (mode == ADD_SHARE) store<f32>(target + o, load<f32>(target + o) + share * value)
      else store<f32>(target + o, value)
    }
  }
}

/** Binomial smoothing 1 4 6 4 1 along rows, edges repeated. */
export function smoothRows(source: usize, width: i32, target: usize, from: i32, to: i32): void {
  for (let y = from; y < to; y++) {
    const row = at(source, y * width)
    const out = at(target, y * width)
    let x = 0
    while (x < width) {
      if (x >= 2 && x + 6 <= width) {
        const i = row + (<usize>x << 2)
        v128.store(out + (<usize>x << 2), blend5(v128.load(i - 8), v128.load(i - 4), v128.load(i), v128.load(i + 4), v128.load(i + 8)))
        x += 4
      } else {
        store<f32>(
          out + (<usize>x << 2),
          blend5s(
            load<f32>(row + (<usize>clampIndex(x - 2, width) << 2)),
            load<f32>(row + (<usize>clampIndex(x - 1, width) << 2)),
            load<f32>(row + (<usize>x << 2)),
            load<f32>(row + (<usize>clampIndex(x + 1, width) << 2)),
            load<f32>(row + (<usize>clampIndex(x + 2, width) << 2)),
          ),
        )
        x++
      }
    }
  }
}

/** The same along columns. */
export function smoothColumns(source: usize, width: i32, height: i32, target: usize, from: i32, to: i32): void {
  for (let y = from; y < to; y++) {
    blendRows(
      at(source, clampIndex(y - 2, height) * width),
      at(source, clampIndex(y - 1, height) * width),
      at(source, y * width),
      at(source, clampIndex(y + 1, height) * width),
      at(source, clampIndex(y + 2, height) * width),
      at(target, y * width),
      width,
    )
  }
}

/** target = (first ? 0 : target) + band² / 3. */
export function addSquares(band: usize, target: usize, width: i32, first: i32, from: i32, to: i32): void {
  const end = <usize>(to * width) << 2
  const third = f32x4.splat(<f32>(1.0 / 3.0))
  let o = <usize>(from * width) << 2
  for (; o + 16 <= end; o += 16) {
    const b = v128.load(band + o)
    const square = f32x4.mul(f32x4.mul(b, b), third)
    v128.store(target + o, first ? square : f32x4.add(v128.load(target + o), square))
  }
  for (; o < end; o += 4) {
    const b = load<f32>(band + o)
    const square: f32 = b * b * <f32>(1.0 / 3.0)
    store<f32>(target + o, first ? square : load<f32>(target + o) + square)
  }
}

/** target += other. */
export function add(other: usize, target: usize, width: i32, from: i32, to: i32): void {
  const end = <usize>(to * width) << 2
  let o = <usize>(from * width) << 2
  for (; o + 16 <= end; o += 16) v128.store(target + o, f32x4.add(v128.load(target + o), v128.load(other + o)))
  for (; o < end; o += 4) store<f32>(target + o, load<f32>(target + o) + load<f32>(other + o))
}

/** plane = (plane × scale + 1) to a whole power. */
export function raise(plane: usize, width: i32, scale: f32, power: i32, from: i32, to: i32): void {
  const end = <usize>(to * width) << 2
  let o = <usize>(from * width) << 2
  const scales = f32x4.splat(scale)
  const one = f32x4.splat(1)
  for (; o + 16 <= end; o += 16) {
    const ratio = f32x4.add(f32x4.mul(v128.load(plane + o), scales), one)
    let weight = ratio
    for (let k = 1; k < power; k++) weight = f32x4.mul(weight, ratio)
    v128.store(plane + o, weight)
  }
  for (; o < end; o += 4) {
    const ratio: f32 = load<f32>(plane + o) * scale + 1
    let weight = ratio
    for (let k = 1; k < power; k++) weight *= ratio
    store<f32>(plane + o, weight)
  }
}

/** sum += band × weight. */
export function addWeighted(band: usize, weight: usize, sum: usize, width: i32, from: i32, to: i32): void {
  const end = <usize>(to * width) << 2
  let o = <usize>(from * width) << 2
  for (; o + 16 <= end; o += 16) v128.store(sum + o, f32x4.add(v128.load(sum + o), f32x4.mul(v128.load(band + o), v128.load(weight + o))))
  for (; o < end; o += 4) store<f32>(sum + o, load<f32>(sum + o) + load<f32>(band + o) * load<f32>(weight + o))
}

/** sum = sum / weight. */
export function divide(sum: usize, weight: usize, width: i32, from: i32, to: i32): void {
  const end = <usize>(to * width) << 2
  let o = <usize>(from * width) << 2
  for (; o + 16 <= end; o += 16) v128.store(sum + o, f32x4.div(v128.load(sum + o), v128.load(weight + o)))
  for (; o < end; o += 4) store<f32>(sum + o, load<f32>(sum + o) / load<f32>(weight + o))
}

/** Where `weight` is the most so far: keeps it and the frame's index; index × weight is summed. */
export function choose(weight: usize, best: usize, source: usize, weightedIndex: usize, width: i32, index: f32, from: i32, to: i32): void {
  const end = <usize>(to * width) << 2
  let o = <usize>(from * width) << 2
  const indices = f32x4.splat(index)
  for (; o + 16 <= end; o += 16) {
    const here = v128.load(weight + o)
    const before = v128.load(best + o)
    const more = f32x4.gt(here, before)
    v128.store(best + o, v128.bitselect(here, before, more))
    v128.store(source + o, v128.bitselect(indices, v128.load(source + o), more))
    v128.store(weightedIndex + o, f32x4.add(v128.load(weightedIndex + o), f32x4.mul(here, indices)))
  }
  for (; o < end; o += 4) {
    const here = load<f32>(weight + o)
    if (here > load<f32>(best + o)) {
      store<f32>(best + o, here)
      store<f32>(source + o, index)
    }
    store<f32>(weightedIndex + o, load<f32>(weightedIndex + o) + here * index)
  }
}
