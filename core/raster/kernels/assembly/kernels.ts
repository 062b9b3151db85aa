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

/** One channel of interleaved 8-bit (or 16-bit) RGB to a plane, times `scale`. */
export function unpack(samples: usize, wide: i32, channel: i32, plane: usize, width: i32, scale: f32, from: i32, to: i32): void {
  const end = to * width
  if (wide) {
    for (let i = from * width; i < end; i++) store<f32>(at(plane, i), <f32>load<u16>(samples + (<usize>(3 * i + channel) << 1)) * scale)
  } else {
    for (let i = from * width; i < end; i++) store<f32>(at(plane, i), <f32>load<u8>(samples + <usize>(3 * i + channel)) * scale)
  }
}

/** Cubic interpolation of a plane at A p + t, p from the picture's first pixel; `taps` holds 1025 × 4 weights. */
export function warp(source: usize, target: usize, width: i32, height: i32, a: f64, b: f64, startX: f64, startY: f64, taps: usize, from: i32, to: i32): void {
  for (let y = from; y < to; y++) {
    let qx = startX - b * <f64>y
    let qy = startY + a * <f64>y
    let out = at(target, y * width)
    for (let x = 0; x < width; x++, qx += a, qy += b, out += 4) {
      const fx = Math.floor(qx)
      const fy = Math.floor(qy)
      const ix = <i32>fx
      const iy = <i32>fy
      const tapX = v128.load(taps + (<usize><i32>((qx - fx) * 1024 + 0.5) << 4))
      const tapY = taps + (<usize><i32>((qy - fy) * 1024 + 0.5) << 4)
      let sum: v128
      if (ix >= 1 && iy >= 1 && ix < width - 2 && iy < height - 2) {
        let row = at(source, (iy - 1) * width + ix - 1)
        const step = <usize>width << 2
        sum = f32x4.mul(v128.load(row), v128.load32_splat(tapY))
        row += step
        sum = f32x4.add(sum, f32x4.mul(v128.load(row), v128.load32_splat(tapY + 4)))
        row += step
        sum = f32x4.add(sum, f32x4.mul(v128.load(row), v128.load32_splat(tapY + 8)))
        row += step
        sum = f32x4.add(sum, f32x4.mul(v128.load(row), v128.load32_splat(tapY + 12)))
      } else {
        sum = f32x4.splat(0)
        const x0 = clampIndex(ix - 1, width)
        const x1 = clampIndex(ix, width)
        const x2 = clampIndex(ix + 1, width)
        const x3 = clampIndex(ix + 2, width)
        for (let j = 0; j < 4; j++) {
          const row = clampIndex(iy + j - 1, height) * width
          const line = f32x4(load<f32>(at(source, row + x0)), load<f32>(at(source, row + x1)), load<f32>(at(source, row + x2)), load<f32>(at(source, row + x3)))
          sum = f32x4.add(sum, f32x4.mul(line, v128.load32_splat(tapY + (<usize>j << 2))))
        }
      }
      const products = f32x4.mul(sum, tapX)
      store<f32>(out, f32x4.extract_lane(products, 0) + f32x4.extract_lane(products, 1) + (f32x4.extract_lane(products, 2) + f32x4.extract_lane(products, 3)))
    }
  }
}

/** Rows of half the width, smoothed with 1 4 6 4 1, edges mirrored: the first half of a reduction. */
export function reduceRows(source: usize, width: i32, target: usize, from: i32, to: i32): void {
  const half = (width + 1) >> 1
  for (let y = from; y < to; y++) {
    const row = y * width
    for (let x = 0; x < half; x++) {
      const c = 2 * x
      let value: f32
      if (c >= 2 && c < width - 2) {
        const i = at(source, row + c)
        value = (load<f32>(i - 8) + load<f32>(i + 8) + 4 * (load<f32>(i - 4) + load<f32>(i + 4)) + 6 * load<f32>(i)) * 0.0625
      } else {
        value =
          (load<f32>(at(source, row + mirror(c - 2, width))) +
            load<f32>(at(source, row + mirror(c + 2, width))) +
            4 * (load<f32>(at(source, row + mirror(c - 1, width))) + load<f32>(at(source, row + mirror(c + 1, width)))) +
            6 * load<f32>(at(source, row + mirror(c, width)))) *
          0.0625
      }
      store<f32>(at(target, y * half + x), value)
    }
  }
}

@inline function blend5(a: v128, b: v128, c: v128, d: v128, e: v128): v128 {
  const outer = f32x4.add(a, e)
  const inner = f32x4.mul(f32x4.add(b, d), f32x4.splat(4))
  return f32x4.mul(f32x4.add(f32x4.add(outer, inner), f32x4.mul(c, f32x4.splat(6))), f32x4.splat(0.0625))
}
@inline function blend5s(a: f32, b: f32, c: f32, d: f32, e: f32): f32 { return (a + e + (b + d) * 4 + c * 6) * 0.0625 }

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
  for (let y = from; y < to; y++) {
    const row = at(source, y * sourceWidth)
    let out = at(target, y * width)
    for (let x = 0; x < width; x++, out += 4) {
      const i = x >> 1
      const right = load<f32>(row + (<usize>min(i + 1, sourceWidth - 1) << 2))
      const here = load<f32>(row + (<usize>i << 2))
      store<f32>(out, x & 1 ? <f32>0.5 * (here + right) : <f32>0.125 * (load<f32>(row + (<usize>max(i - 1, 0) << 2)) + right) + <f32>0.75 * here)
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
