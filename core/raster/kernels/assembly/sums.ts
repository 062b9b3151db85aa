// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.
import { evenOf, expandDown, firstFour, lastFour, load4, next4, oddOf, rounded, rowOf, weightOf } from './memory'

@inline function addBand(fine: usize, before: usize, sum: usize, low: v128, high: v128, begun: bool): void {
  const even = evenOf(before)
  const odd = oddOf(before)
  const more = f32x4.mul(f32x4.sub(v128.load(fine), firstFour(even, odd)), low)
  const next = f32x4.mul(f32x4.sub(v128.load(fine, 16), lastFour(even, odd)), high)
  v128.store(sum, begun ? f32x4.add(v128.load(sum), more) : more)
  v128.store(sum, begun ? f32x4.add(v128.load(sum, 16), next) : next, 16)
}

/**
 * sums += weight × (fine − coarse brought to its size), total += weight, where weight = (energy × scale + least)^power. Until
 * sums have `begun` they are written, whatever the memory held.
 */
export function accumulate(
  red: usize, green: usize, blue: usize, stride: i32,
  coarseRed: usize, coarseGreen: usize, coarseBlue: usize, coarseStride: i32, coarseHeight: i32, width: i32,
  weight: usize, scale: f32, least: f32, power: i32, sumRed: usize, sumGreen: usize, sumBlue: usize, total: usize, begun: bool,
  rows: usize, rowsBytes: i32, part: i32, from: i32, to: i32,
): void {
  const half = (width + 1) >> 1
  const apart = (<usize>half << 2) + 128
  const first = rowOf(rows, rowsBytes, part)
  const scales = f32x4.splat(scale)
  const leasts = f32x4.splat(least)
  for (let y = from; y < to; y++) {
    expandDown(coarseRed, coarseStride, coarseHeight, half, y, first)
    expandDown(coarseGreen, coarseStride, coarseHeight, half, y, first + apart)
    expandDown(coarseBlue, coarseStride, coarseHeight, half, y, first + 2 * apart)
    const row = <usize>(y * stride)
    const end = (row + <usize>width) << 2
    let i = first - 4
    for (let s = row << 2; s < end; s += 32, i += 16) {
      const w = weight + s
      const low = weightOf(v128.load(w), scales, leasts, power)
      const high = weightOf(v128.load(w, 16), scales, leasts, power)
      const t = total + s
      v128.store(t, begun ? f32x4.add(v128.load(t), low) : low)
      v128.store(t, begun ? f32x4.add(v128.load(t, 16), high) : high, 16)
      addBand(red + s, i, sumRed + s, low, high, begun)
      addBand(green + s, i + apart, sumGreen + s, low, high, begun)
      addBand(blue + s, i + 2 * apart, sumBlue + s, low, high, begun)
    }
  }
}

/** Eight places of a band of 16 bits: mean × keep + band × more. */
@inline function averageBand(fine: usize, before: usize, mean: usize, keepLow: v128, keepHigh: v128, moreLow: v128, moreHigh: v128, begun: bool): void {
  const even = evenOf(before)
  const odd = oddOf(before)
  let low = f32x4.mul(f32x4.sub(load4<u16>(fine), firstFour(even, odd)), moreLow)
  let high = f32x4.mul(f32x4.sub(next4<u16>(fine), lastFour(even, odd)), moreHigh)
  if (begun) {
    low = f32x4.add(low, f32x4.mul(f32x4.convert_i32x4_s(v128.load16x4_s(mean)), keepLow))
    high = f32x4.add(high, f32x4.mul(f32x4.convert_i32x4_s(v128.load16x4_s(mean, 8)), keepHigh))
  }
  v128.store(mean, i16x8.narrow_i32x4_s(rounded(low), rounded(high)))
}

/** What part of a mean stays, and what part of the band, in `steps`, comes to it; in a sum all stays. */
@inline function keptOf(weight: v128, total: v128, sum: bool): v128 {
  const one = f32x4.splat(1)
  return sum ? one : f32x4.sub(one, f32x4.div(weight, f32x4.max(total, f32x4.splat(f32.MIN_NORMAL_VALUE))))
}
@inline function comingOf(weight: v128, kept: v128, steps: f32, sum: bool): v128 {
  return f32x4.mul(f32x4.splat(steps), sum ? weight : f32x4.sub(f32x4.splat(1), kept))
}

/**
 * The same for the finest band, whose planes are of 16 bits, and of which no sums are kept but weighted means, in `steps` of 1; or, where `sum`, sums
 * that stay small. They take half the room, and a step is far less than noise.
 */
export function average(
  red: usize, green: usize, blue: usize, stride: i32,
  coarseRed: usize, coarseGreen: usize, coarseBlue: usize, coarseStride: i32, coarseHeight: i32, width: i32,
  weight: usize, scale: f32, least: f32, power: i32, meanRed: usize, meanGreen: usize, meanBlue: usize, total: usize, steps: f32, sum: bool, begun: bool,
  rows: usize, rowsBytes: i32, part: i32, from: i32, to: i32,
): void {
  const half = (width + 1) >> 1
  const apart = (<usize>half << 2) + 128
  const first = rowOf(rows, rowsBytes, part)
  const scales = f32x4.splat(scale)
  const leasts = f32x4.splat(least)
  for (let y = from; y < to; y++) {
    expandDown(coarseRed, coarseStride, coarseHeight, half, y, first)
    expandDown(coarseGreen, coarseStride, coarseHeight, half, y, first + apart)
    expandDown(coarseBlue, coarseStride, coarseHeight, half, y, first + 2 * apart)
    const row = <usize>(y * stride)
    const end = (row + <usize>width) << 1
    let i = first - 4
    for (let o = row << 1; o < end; o += 16, i += 16) {
      const w = weight + (o << 1)
      const t = total + (o << 1)
      const low = weightOf(v128.load(w), scales, leasts, power)
      const high = weightOf(v128.load(w, 16), scales, leasts, power)
      const allLow = begun ? f32x4.add(v128.load(t), low) : low
      const allHigh = begun ? f32x4.add(v128.load(t, 16), high) : high
      v128.store(t, allLow)
      v128.store(t, allHigh, 16)
      const keepLow = keptOf(low, allLow, sum)
      const keepHigh = keptOf(high, allHigh, sum)
      const moreLow = comingOf(low, keepLow, steps, sum)
      const moreHigh = comingOf(high, keepHigh, steps, sum)
      averageBand(red + o, i, meanRed + o, keepLow, keepHigh, moreLow, moreHigh, begun)
      averageBand(green + o, i + apart, meanGreen + o, keepLow, keepHigh, moreLow, moreHigh, begun)
      averageBand(blue + o, i + 2 * apart, meanBlue + o, keepLow, keepHigh, moreLow, moreHigh, begun)
    }
  }
}

/** The same for what remains at the top of the pyramid: sums += weight × plane. */
export function accumulateTop(
  red: usize, green: usize, blue: usize, stride: i32, weight: usize, sumRed: usize, sumGreen: usize, sumBlue: usize, total: usize, begun: bool, from: i32, to: i32,
): void {
  const end = <usize>(to * stride) << 2
  for (let o = <usize>(from * stride) << 2; o < end; o += 16) {
    const w = v128.load(weight + o)
    const r = f32x4.mul(w, v128.load(red + o))
    const g = f32x4.mul(w, v128.load(green + o))
    const b = f32x4.mul(w, v128.load(blue + o))
    v128.store(total + o, begun ? f32x4.add(v128.load(total + o), w) : w)
    v128.store(sumRed + o, begun ? f32x4.add(v128.load(sumRed + o), r) : r)
    v128.store(sumGreen + o, begun ? f32x4.add(v128.load(sumGreen + o), g) : g)
    v128.store(sumBlue + o, begun ? f32x4.add(v128.load(sumBlue + o), b) : b)
  }
}

/**
 * Where `energy` is the most so far: keeps it, the frame's index, the energy of the frame before it (`lastIndex`) and, once
 * it is known, of the one after it; −1 where there is none. Energies are summed too.
 */
export function peak(
  energy: usize, best: usize, source: usize, before: usize, after: usize, last: usize, sum: usize, stride: i32, index: f32, lastIndex: f32, begun: bool, from: i32, to: i32,
): void {
  const end = <usize>(to * stride) << 2
  const indices = f32x4.splat(index)
  const lastIndices = f32x4.splat(lastIndex)
  const none = f32x4.splat(-1)
  for (let o = <usize>(from * stride) << 2; o < end; o += 16) {
    const here = v128.load(energy + o)
    if (!begun) {
      v128.store(best + o, here)
      v128.store(source + o, indices)
      v128.store(before + o, none)
      v128.store(after + o, none)
    } else {
      const most = v128.load(best + o)
      const was = v128.load(source + o)
      const more = f32x4.gt(here, most)
      v128.store(best + o, v128.bitselect(here, most, more))
      v128.store(source + o, v128.bitselect(indices, was, more))
      v128.store(before + o, v128.bitselect(v128.load(last + o), v128.load(before + o), more))
      const follows = v128.bitselect(here, v128.load(after + o), f32x4.eq(was, lastIndices))
      v128.store(after + o, v128.bitselect(none, follows, more))
    }
    v128.store(last + o, here)
    v128.store(sum + o, begun ? f32x4.add(v128.load(sum + o), here) : here)
  }
}

/** sum = sum / total. */
export function divide(sum: usize, total: usize, stride: i32, from: i32, to: i32): void {
  const end = <usize>(to * stride) << 2
  for (let o = <usize>(from * stride) << 2; o < end; o += 16) v128.store(sum + o, f32x4.div(v128.load(sum + o), v128.load(total + o)))
}

/** sum = sum / total + coarse brought to its size: a pyramid put together, one level. */
export function collapse(
  coarse: usize, coarseStride: i32, coarseHeight: i32, sum: usize, total: usize, stride: i32, width: i32,
  rows: usize, rowsBytes: i32, part: i32, from: i32, to: i32,
): void {
  const line = rowOf(rows, rowsBytes, part)
  for (let y = from; y < to; y++) {
    expandDown(coarse, coarseStride, coarseHeight, (width + 1) >> 1, y, line)
    for (let x = 0; x < width; x += 8) {
      const i = line - 4 + (<usize>x << 1)
      const o = <usize>(y * stride + x) << 2
      const even = evenOf(i)
      const odd = oddOf(i)
      v128.store(sum + o, f32x4.add(f32x4.div(v128.load(sum + o), v128.load(total + o)), firstFour(even, odd)))
      v128.store(sum + o + 16, f32x4.add(f32x4.div(v128.load(sum + o + 16), v128.load(total + o + 16)), lastFour(even, odd)))
    }
  }
}

@inline function deliverRow(line: usize, mean: usize, part: v128, width: i32, out: usize): void {
  for (let x = 0; x < width; x += 8) {
    const i = line - 4 + (<usize>x << 1)
    const p = mean + (<usize>x << 1)
    const even = evenOf(i)
    const odd = oddOf(i)
    for (let k = 0; k < 2; k++) {
      const own = f32x4.mul(part, f32x4.convert_i32x4_s(v128.load16x4_s(p + (<usize>k << 3))))
      const value = f32x4.add(own, k ? lastFour(even, odd) : firstFour(even, odd))
      const whole = i32x4.trunc_sat_f32x4_s(f32x4.add(f32x4.mul(value, f32x4.splat(65535)), f32x4.splat(0.5)))
      const narrow = i16x8.narrow_i32x4_u(whole, whole)
      const left = width - x - 4 * k
      const to = out + <usize>(x + 4 * k) * 6
      if (left > 0) v128.store_lane<u16>(to, narrow, 0)
      if (left > 1) v128.store_lane<u16>(to + 6, narrow, 1)
      if (left > 2) v128.store_lane<u16>(to + 12, narrow, 2)
      if (left > 3) v128.store_lane<u16>(to + 18, narrow, 3)
    }
  }
}

/** The finest level put together from its means (see `average`), as interleaved 16-bit samples, clipped to the range. */
export function deliver(
  coarseRed: usize, coarseGreen: usize, coarseBlue: usize, coarseStride: i32, coarseHeight: i32,
  meanRed: usize, meanGreen: usize, meanBlue: usize, stride: i32, width: i32, steps: f32, out: usize,
  rows: usize, rowsBytes: i32, part: i32, from: i32, to: i32,
): void {
  const line = rowOf(rows, rowsBytes, part)
  const half = (width + 1) >> 1
  const each = f32x4.splat(1 / steps)
  for (let y = from; y < to; y++) {
    const o = <usize>(y * stride) << 1
    const row = out + <usize>(y * width) * 6
    expandDown(coarseRed, coarseStride, coarseHeight, half, y, line)
    deliverRow(line, meanRed + o, each, width, row)
    expandDown(coarseGreen, coarseStride, coarseHeight, half, y, line)
    deliverRow(line, meanGreen + o, each, width, row + 2)
    expandDown(coarseBlue, coarseStride, coarseHeight, half, y, line)
    deliverRow(line, meanBlue + o, each, width, row + 4)
  }
}
