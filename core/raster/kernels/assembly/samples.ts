// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.
import { clampIndex, rounded, rowOf } from './memory'

/** Columns that one vertical phase is taken for. */
const GROUP: i32 = 8
/** Places on both sides of a line for the edge repeated. */
const EDGE: i32 = 8
/** Places are counted in 1024ths, with 20 bits of fraction more, from so far before the picture that none is negative. */
const BEFORE: i32 = 16384
const FRACTION: i64 = 20
const PIXEL: i64 = 30
const PART: i64 = (1 << 30) - 1

/** Eight values of a row of bytes, blended down from four rows by whole weights: pairs of rows at a time. */
@inline function blendDown8(r0: usize, r1: usize, r2: usize, r3: usize, w01: v128, w23: v128, out: usize): void {
  const h0 = v128.load8x8_u(r0)
  const h1 = v128.load8x8_u(r1)
  const h2 = v128.load8x8_u(r2)
  const h3 = v128.load8x8_u(r3)
  const low = i32x4.add(
    i32x4.dot_i16x8_s(v128.shuffle<i16>(h0, h1, 0, 8, 1, 9, 2, 10, 3, 11), w01),
    i32x4.dot_i16x8_s(v128.shuffle<i16>(h2, h3, 0, 8, 1, 9, 2, 10, 3, 11), w23),
  )
  const high = i32x4.add(
    i32x4.dot_i16x8_s(v128.shuffle<i16>(h0, h1, 4, 12, 5, 13, 6, 14, 7, 15), w01),
    i32x4.dot_i16x8_s(v128.shuffle<i16>(h2, h3, 4, 12, 5, 13, 6, 14, 7, 15), w23),
  )
  v128.store(out, f32x4.convert_i32x4_s(low))
  v128.store(out, f32x4.convert_i32x4_s(high), 16)
}

/** Four values of a row of 16 bits. */
@inline function blendDown16(r0: usize, r1: usize, r2: usize, r3: usize, w0: v128, w1: v128, w2: v128, w3: v128, out: usize): void {
  let sum = f32x4.mul(f32x4.convert_i32x4_s(v128.load16x4_u(r0)), w0)
  sum = f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_s(v128.load16x4_u(r1)), w1))
  sum = f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_s(v128.load16x4_u(r2)), w2))
  v128.store(out, f32x4.add(sum, f32x4.mul(f32x4.convert_i32x4_s(v128.load16x4_u(r3)), w3)))
}

/** Twelve values red, green, blue, red … to four of each. */
@inline function apart(from: usize, red: usize, green: usize, blue: usize): void {
  const a = v128.load(from)
  const b = v128.load(from, 16)
  const c = v128.load(from, 32)
  v128.store(red, v128.shuffle<f32>(v128.shuffle<f32>(a, b, 0, 3, 6, 6), c, 0, 1, 2, 5))
  v128.store(green, v128.shuffle<f32>(v128.shuffle<f32>(a, b, 1, 4, 7, 7), c, 0, 1, 2, 6))
  v128.store(blue, v128.shuffle<f32>(v128.shuffle<f32>(a, b, 2, 5, 5, 5), c, 0, 1, 4, 7))
}

/** A group of eight columns, blended down from four rows by the whole weights at `tap`, to a line of each channel. */
@inline function blendGroup(r0: usize, r1: usize, r2: usize, r3: usize, wide: i32, tap: usize, mixed: usize, red: usize, green: usize, blue: usize): void {
  const taps = v128.load64_zero(tap)
  if (wide) {
    const weights = f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(taps))
    const w0 = v128.shuffle<f32>(weights, weights, 0, 0, 0, 0)
    const w1 = v128.shuffle<f32>(weights, weights, 1, 1, 1, 1)
    const w2 = v128.shuffle<f32>(weights, weights, 2, 2, 2, 2)
    const w3 = v128.shuffle<f32>(weights, weights, 3, 3, 3, 3)
    for (let k: usize = 0; k < 48; k += 8) blendDown16(r0 + k, r1 + k, r2 + k, r3 + k, w0, w1, w2, w3, mixed + 2 * k)
  } else {
    const w01 = v128.shuffle<i32>(taps, taps, 0, 0, 0, 0)
    const w23 = v128.shuffle<i32>(taps, taps, 1, 1, 1, 1)
    blendDown8(r0, r1, r2, r3, w01, w23, mixed)
    blendDown8(r0 + 8, r1 + 8, r2 + 8, r3 + 8, w01, w23, mixed + 32)
    blendDown8(r0 + 16, r1 + 16, r2 + 16, r3 + 16, w01, w23, mixed + 64)
  }
  apart(mixed, red, green, blue)
  apart(mixed + 48, red + 16, green + 16, blue + 16)
}

@inline function repeatEdge(line: usize, width: i32): void {
  const last = line + (<usize>(width - 1) << 2)
  const before = v128.load32_splat(line)
  const behind = v128.load32_splat(last)
  v128.store(line - 32, before)
  v128.store(line - 16, before)
  v128.store(last + 4, behind)
  v128.store(last + 20, behind)
}

/** Four whole numbers along a line, whose first reads from `before` on, by weights that differ from place to place. */
@inline function across(before: usize, w0: v128, w1: v128, w2: v128, w3: v128, gain: v128): v128 {
  const sum = f32x4.add(
    f32x4.add(f32x4.mul(v128.load(before), w0), f32x4.mul(v128.load(before, 4), w1)),
    f32x4.add(f32x4.mul(v128.load(before, 8), w2), f32x4.mul(v128.load(before, 12), w3)),
  )
  return rounded(f32x4.mul(sum, gain))
}

/** Keys' weights at places `t` between two samples, of the sample before (0) to the one behind the next (3). */
@inline function weight0(t: v128, t2: v128, t3: v128, s: v128): v128 { return f32x4.mul(s, f32x4.add(f32x4.sub(t3, f32x4.add(t2, t2)), t)) }
@inline function weight1(t2: v128, t3: v128, s: v128): v128 {
  return f32x4.add(f32x4.sub(f32x4.mul(f32x4.add(s, f32x4.splat(2)), t3), f32x4.mul(f32x4.add(s, f32x4.splat(3)), t2)), f32x4.splat(1))
}
@inline function weight3(t2: v128, t3: v128, s: v128): v128 { return f32x4.mul(s, f32x4.sub(t2, t3)) }

/**
 * Interleaved RGB samples, 8 or 16 bits, to three planes of u16 (see the twin): columns first, into this part's lines, then
 * along the lines. `taps` holds 1025 × 4 whole weights. Where `bends` is not 0, a net of displacements lies there, see bendNet.
 */
export function warpSamples(
  samples: usize, wide: i32, red: usize, green: usize, blue: usize, stride: i32, width: i32, height: i32,
  startOfU: f64, acrossOfU: f64, downOfU: f64, startOfV: f64, acrossOfV: f64, downOfV: f64,
  gain: f32, sharpness: f32, taps: usize, bends: usize, rows: usize, rowsBytes: i32, part: i32, from: i32, to: i32,
): void {
  const mixed = rowOf(rows, rowsBytes, part)
  const lineBytes = ((<usize>width + 15) & ~7) * 4 + 2 * <usize>EDGE * 4
  const first = mixed + 96 + <usize>EDGE * 4
  const second = first + lineBytes
  const third = second + lineBytes
  const bytes: usize = wide ? 6 : 3
  const rowBytes = <usize>width * bytes
  const gains = f32x4.splat(gain)
  const s = f32x4.splat(sharpness)
  const acrossU = <i64>acrossOfU
  const acrossV = <i64>acrossOfV
  // How much a step across exceeds a pixel, and what that makes of the eight places of two vectors.
  const unbent = <f32>(<f64>(acrossU - (<i64>1 << PIXEL)) / <f64>(<i64>1 << PIXEL))
  let excess = unbent
  let low = f32x4.mul(f32x4.splat(excess), f32x4(0, 1, 2, 3))
  let high = f32x4.mul(f32x4.splat(excess), f32x4(4, 5, 6, 7))
  const netRow = <usize>((width + 7) / 8 + 1) << 2
  const netDown = netRow * <usize>((height + 15) / 16 + 1)
  for (let y = from; y < to; y++) {
    const net = bends + <usize>(y >> 4) * netRow
    const between = <f32>(y & 15) * <f32>0.0625
    let v = <i64>startOfV + <i64>downOfV * <i64>y
    for (let x = 0; x < width; x += GROUP, v += acrossV * <i64>GROUP) {
      const bent = bends ? <i64>(<f64>bentBy(net + netDown + (<usize>x >> 1), netRow, between) * <f64>(<i64>1 << PIXEL)) : 0
      const place = <i32>((v + bent) >> FRACTION)
      const iy = (place >> 10) - BEFORE
      const o = samples + <usize>x * bytes
      const l = <usize>x << 2
      blendGroup(
        o + <usize>clampIndex(iy - 1, height) * rowBytes,
        o + <usize>clampIndex(iy, height) * rowBytes,
        o + <usize>clampIndex(iy + 1, height) * rowBytes,
        o + <usize>clampIndex(iy + 2, height) * rowBytes,
        wide,
        taps + (<usize>(place & 1023) << 3),
        mixed,
        first + l,
        second + l,
        third + l,
      )
    }
    repeatEdge(first, width)
    repeatEdge(second, width)
    repeatEdge(third, width)
    let straight = <i64>startOfU + <i64>downOfU * <i64>y
    let o = <usize>(y * stride) << 1
    for (let x = 0; x < width; x += 8, o += 16, straight += 8 * acrossU) {
      let u = straight
      let step = acrossU
      if (bends) {
        const p = net + (<usize>x >> 1)
        const here = bentBy(p, netRow, between)
        const more = (bentBy(p + 4, netRow, between) - here) * <f32>0.125
        u += <i64>(<f64>here * <f64>(<i64>1 << PIXEL))
        step += <i64>(<f64>more * <f64>(<i64>1 << PIXEL))
        excess = unbent + more
        low = f32x4.mul(f32x4.splat(excess), f32x4(0, 1, 2, 3))
        high = f32x4.mul(f32x4.splat(excess), f32x4(4, 5, 6, 7))
      }
      const ix = <i32>(u >> PIXEL) - BEFORE
      const start = <f32>(u & PART) * <f32>(1.0 / 1073741824.0)
      const end = start + 7 * excess
      if (end >= 0 && end < 1 && ix >= -4 && ix <= width - 4) {
        const l = (<usize>ix << 2) - 4
        const t = f32x4.add(f32x4.splat(start), low)
        const t2 = f32x4.mul(t, t)
        const t3 = f32x4.mul(t2, t)
        const w0 = weight0(t, t2, t3, s)
        const w1 = weight1(t2, t3, s)
        const w3 = weight3(t2, t3, s)
        const w2 = f32x4.sub(f32x4.splat(1), f32x4.add(f32x4.add(w0, w1), w3))
        const h = f32x4.add(f32x4.splat(start), high)
        const h2 = f32x4.mul(h, h)
        const h3 = f32x4.mul(h2, h)
        const v0 = weight0(h, h2, h3, s)
        const v1 = weight1(h2, h3, s)
        const v3 = weight3(h2, h3, s)
        const v2 = f32x4.sub(f32x4.splat(1), f32x4.add(f32x4.add(v0, v1), v3))
        v128.store(red + o, i16x8.narrow_i32x4_u(across(first + l, w0, w1, w2, w3, gains), across(first + l + 16, v0, v1, v2, v3, gains)))
        v128.store(green + o, i16x8.narrow_i32x4_u(across(second + l, w0, w1, w2, w3, gains), across(second + l + 16, v0, v1, v2, v3, gains)))
        v128.store(blue + o, i16x8.narrow_i32x4_u(across(third + l, w0, w1, w2, w3, gains), across(third + l + 16, v0, v1, v2, v3, gains)))
        continue
      }
      // Between these eight the places pass a sample, or leave the picture: one after the other.
      for (let k = 0; k < 8; k++) {
        const at = u + <i64>k * step
        const l = (<usize>min(max(<i32>(at >> PIXEL) - BEFORE, -4), width + 1) << 2) - 4
        const t = f32x4.splat(<f32>(at & PART) * <f32>(1.0 / 1073741824.0))
        const t2 = f32x4.mul(t, t)
        const t3 = f32x4.mul(t2, t)
        const w0 = weight0(t, t2, t3, s)
        const w1 = weight1(t2, t3, s)
        const w3 = weight3(t2, t3, s)
        const w2 = f32x4.sub(f32x4.splat(1), f32x4.add(f32x4.add(w0, w1), w3))
        const p = o + (<usize>k << 1)
        v128.store_lane<u16>(red + p, narrowed(across(first + l, w0, w1, w2, w3, gains)), 0)
        v128.store_lane<u16>(green + p, narrowed(across(second + l, w0, w1, w2, w3, gains)), 0)
        v128.store_lane<u16>(blue + p, narrowed(across(third + l, w0, w1, w2, w3, gains)), 0)
      }
    }
  }
}

/** What a bend adds between two rows of its net. */
@inline function bentBy(p: usize, netRow: usize, between: f32): f32 {
  const above = load<f32>(p)
  return above + between * (load<f32>(p + netRow) - above)
}

@inline function narrowed(four: v128): v128 { return i16x8.narrow_i32x4_u(four, four) }

/** Light of an sRGB-encoded value, near enough (within 0.002). */
@inline function light(v: v128): v128 {
  const inner = f32x4.add(f32x4.mul(v, f32x4.splat(0.305306011)), f32x4.splat(0.682171111))
  return f32x4.mul(v, f32x4.add(f32x4.mul(v, inner), f32x4.splat(0.012522878)))
}

@inline function lumaOf(red: v128, green: v128, blue: v128, unit: v128, encoded: bool): v128 {
  const r = f32x4.mul(f32x4.convert_i32x4_s(red), unit)
  const g = f32x4.mul(f32x4.convert_i32x4_s(green), unit)
  const b = f32x4.mul(f32x4.convert_i32x4_s(blue), unit)
  const two = f32x4.add(f32x4.mul(f32x4.splat(0.2126), encoded ? r : light(r)), f32x4.mul(f32x4.splat(0.7152), encoded ? g : light(g)))
  return f32x4.add(two, f32x4.mul(f32x4.splat(0.0722), encoded ? b : light(b)))
}

/** Luma of interleaved RGB samples, 8 or 16 bits: in linear light, or of the samples as they are encoded. */
export function luma(samples: usize, wide: i32, encoded: bool, target: usize, stride: i32, width: i32, from: i32, to: i32): void {
  const unit = f32x4.splat(wide ? <f32>(1.0 / 65535.0) : <f32>(1.0 / 255.0))
  // Every third byte, or every third pair of bytes, becomes a whole number; 255 leaves a byte empty.
  const red = i8x16(0, -1, -1, -1, 3, -1, -1, -1, 6, -1, -1, -1, 9, -1, -1, -1)
  const green = i8x16(1, -1, -1, -1, 4, -1, -1, -1, 7, -1, -1, -1, 10, -1, -1, -1)
  const blue = i8x16(2, -1, -1, -1, 5, -1, -1, -1, 8, -1, -1, -1, 11, -1, -1, -1)
  const none = i16x8.splat(0)
  for (let y = from; y < to; y++) {
    const out = target + (<usize>(y * stride) << 2)
    let p = samples + <usize>y * <usize>width * (wide ? 6 : 3)
    for (let x = 0; x < width; x += 4) {
      if (wide) {
        // r0 g0 b0 r1 g1 b1 r2 g2 | b2 r3 g3 b3 …
        const a = v128.load(p)
        const b = v128.load(p + 16)
        const r = v128.shuffle<i16>(v128.shuffle<i16>(a, b, 0, 3, 6, 9, 0, 3, 6, 9), none, 0, 8, 1, 8, 2, 8, 3, 8)
        const g = v128.shuffle<i16>(v128.shuffle<i16>(a, b, 1, 4, 7, 10, 1, 4, 7, 10), none, 0, 8, 1, 8, 2, 8, 3, 8)
        const c = v128.shuffle<i16>(v128.shuffle<i16>(a, b, 2, 5, 8, 11, 2, 5, 8, 11), none, 0, 8, 1, 8, 2, 8, 3, 8)
        v128.store(out + (<usize>x << 2), lumaOf(r, g, c, unit, encoded))
        p += 24
      } else {
        const a = v128.load(p)
        v128.store(out + (<usize>x << 2), lumaOf(i8x16.swizzle(a, red), i8x16.swizzle(a, green), i8x16.swizzle(a, blue), unit, encoded))
        p += 12
      }
    }
  }
}

/** A rectangle of three planes of u16, from `left`, `top` on, as interleaved samples without padding. */
export function interleave(
  red: usize, green: usize, blue: usize, stride: i32, left: i32, top: i32, width: i32, out: usize, from: i32, to: i32,
): void {
  for (let y = from; y < to; y++) {
    let o = <usize>((top + y) * stride + left) << 1
    let p = out + <usize>y * <usize>width * 6
    let x = 0
    for (; x + 8 <= width; x += 8, o += 16, p += 48) {
      const r = v128.load(red + o)
      const g = v128.load(green + o)
      const b = v128.load(blue + o)
      // r0 g0 b0 r1 g1 b1 r2 g2 | b2 r3 g3 b3 r4 g4 b4 r5 | g5 b5 r6 g6 b6 r7 g7 b7
      v128.store(p, v128.shuffle<i16>(v128.shuffle<i16>(r, g, 0, 8, 0, 1, 9, 0, 2, 10), b, 0, 1, 8, 3, 4, 9, 6, 7))
      v128.store(p, v128.shuffle<i16>(v128.shuffle<i16>(r, g, 0, 3, 11, 0, 4, 12, 0, 5), b, 10, 1, 2, 11, 4, 5, 12, 7), 16)
      v128.store(p, v128.shuffle<i16>(v128.shuffle<i16>(r, g, 13, 0, 6, 14, 0, 7, 15, 0), b, 0, 13, 2, 3, 14, 5, 6, 15), 32)
    }
    for (; x < width; x++, o += 2, p += 6) {
      store<u16>(p, load<u16>(red + o))
      store<u16>(p + 2, load<u16>(green + o))
      store<u16>(p + 4, load<u16>(blue + o))
    }
  }
}
