// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.
import { rowOf } from './memory'

// As in ../finishing.ts.
const OPERATION_BYTES: usize = 48
const TONE_STEPS: f32 = 4096
const FADE_STEPS: f32 = 1024
const SHIFT: i32 = 15
const FIRST: i32 = 96 << 8

@inline function between(table: usize, place: f32): f32 {
  const step = <i32>place
  const at = table + (<usize>step << 2)
  const before = load<f32>(at)
  return before + (place - <f32>step) * (load<f32>(at, 4) - before)
}

@inline function faded(table: usize, t: f32): f32 { return between(table, min<f32>(1, max<f32>(0, t)) * FADE_STEPS) }

@inline function scaleFour(at: usize, apart: usize, gain: v128): void {
  v128.store(at, f32x4.mul(v128.load(at), gain))
  v128.store(at + apart, f32x4.mul(v128.load(at + apart), gain))
  v128.store(at + 2 * apart, f32x4.mul(v128.load(at + 2 * apart), gain))
}

@inline function scaleOne(at: usize, apart: usize, gain: f32): void {
  store<f32>(at, load<f32>(at) * gain)
  store<f32>(at + apart, load<f32>(at + apart) * gain)
  store<f32>(at + 2 * apart, load<f32>(at + 2 * apart) * gain)
}

@inline function luminanceFour(at: usize, apart: usize, op: usize): v128 {
  const r = f32x4.mul(v128.load32_splat(op, 4), v128.load(at))
  const g = f32x4.mul(v128.load32_splat(op, 8), v128.load(at + apart))
  return f32x4.add(f32x4.add(r, g), f32x4.mul(v128.load32_splat(op, 12), v128.load(at + 2 * apart)))
}

/** One operation on a row of three planes; its padding is changed as well, and never read. */
function operate(op: usize, row: usize, apart: usize, width: i32, y: i32, mapRow: i32): void {
  const kind = load<i32>(op)
  const end = row + (<usize>width << 2)
  if (kind == 0) {
    const red = v128.load32_splat(op, 16)
    const green = v128.load32_splat(op, 20)
    const blue = v128.load32_splat(op, 24)
    for (let at = row; at < end; at += 16) {
      v128.store(at, f32x4.mul(v128.load(at), red))
      v128.store(at + apart, f32x4.mul(v128.load(at + apart), green))
      v128.store(at + 2 * apart, f32x4.mul(v128.load(at + 2 * apart), blue))
    }
  } else if (kind == 1) {
    const table = <usize>load<u32>(op, 16)
    const one = f32x4.splat(1)
    const none = f32x4.splat(0)
    const steps = f32x4.splat(TONE_STEPS)
    for (let at = row; at < end; at += 16) {
      const light = f32x4.min(one, f32x4.max(none, luminanceFour(at, apart, op)))
      const place = f32x4.mul(f32x4.sqrt(f32x4.sqrt(light)), steps)
      const gain = f32x4(
        between(table, f32x4.extract_lane(place, 0)), between(table, f32x4.extract_lane(place, 1)),
        between(table, f32x4.extract_lane(place, 2)), between(table, f32x4.extract_lane(place, 3)),
      )
      scaleFour(at, apart, gain)
    }
  } else if (kind == 2) {
    const strength = v128.load32_splat(op, 16)
    for (let at = row; at < end; at += 16) {
      const grey = luminanceFour(at, apart, op)
      v128.store(at, f32x4.add(grey, f32x4.mul(strength, f32x4.sub(v128.load(at), grey))))
      v128.store(at + apart, f32x4.add(grey, f32x4.mul(strength, f32x4.sub(v128.load(at + apart), grey))))
      v128.store(at + 2 * apart, f32x4.add(grey, f32x4.mul(strength, f32x4.sub(v128.load(at + 2 * apart), grey))))
    }
  } else if (kind == 3) {
    const table = <usize>load<u32>(op, 16)
    const start = load<f32>(op, 20) + <f32>y * load<f32>(op, 28)
    const across = load<f32>(op, 24)
    for (let x = 0, at = row; x < width; x++, at += 4) scaleOne(at, apart, faded(table, start + <f32>x * across))
  } else if (kind == 4) {
    const table = <usize>load<u32>(op, 16)
    let map = <usize>load<u32>(op, 20) + (<usize>(mapRow * width) << 1)
    const start = load<f32>(op, 24)
    const across = load<f32>(op, 28)
    for (let at = row; at < end; at += 4, map += 2) scaleOne(at, apart, faded(table, start + <f32>load<u16>(map) * across))
  } else {
    const top = load<i32>(op, 24)
    if (y < top || y >= top + load<i32>(op, 32)) return
    const across = load<i32>(op, 28)
    let map = <usize>load<u32>(op, 16) + (<usize>((y - top) * across) << 2)
    let at = row + (<usize>load<i32>(op, 20) << 2)
    for (let x = 0; x < across; x++, at += 4, map += 4) scaleOne(at, apart, load<f32>(map))
  }
}

@inline function sampleOf(back: usize, value: f32): u16 {
  if (value >= 1) return 65535
  const bits = reinterpret<i32>(value)
  const piece = (bits >> SHIFT) - FIRST
  if (piece < 0) return 0
  const at = back + (<usize>piece << 2)
  const before = load<f32>(at)
  return <u16>(before + <f32>(bits & ((1 << SHIFT) - 1)) * <f32>(1.0 / 32768.0) * (load<f32>(at, 4) - before) + <f32>0.5)
}

/** Samples to light, operations, and back; see the twin. */
export function finishRows(
  samples: usize, width: i32, top: i32, light: usize, back: usize, program: usize, count: i32, lights: usize,
  rows: usize, rowsBytes: i32, part: i32, from: i32, to: i32,
): void {
  const row = rowOf(rows, rowsBytes, part)
  const apart = <usize>((width + 7) & ~7) << 2
  const end = row + (<usize>width << 2)
  for (let y = from; y < to; y++) {
    let s = samples + <usize>y * <usize>width * 6
    for (let at = row; at < end; at += 4, s += 6) {
      store<f32>(at, load<f32>(light + (<usize>load<u16>(s) << 2)))
      store<f32>(at + apart, load<f32>(light + (<usize>load<u16>(s, 2) << 2)))
      store<f32>(at + 2 * apart, load<f32>(light + (<usize>load<u16>(s, 4) << 2)))
    }
    for (let k = 0; k < count; k++) operate(program + <usize>k * OPERATION_BYTES, row, apart, width, top + y, y)
    if (lights) {
      let out = lights + <usize>y * <usize>width * 12
      for (let at = row; at < end; at += 4, out += 12) {
        store<f32>(out, load<f32>(at))
        store<f32>(out, load<f32>(at + apart), 4)
        store<f32>(out, load<f32>(at + 2 * apart), 8)
      }
    } else {
      s = samples + <usize>y * <usize>width * 6
      for (let at = row; at < end; at += 4, s += 6) {
        store<u16>(s, sampleOf(back, load<f32>(at)))
        store<u16>(s, sampleOf(back, load<f32>(at + apart)), 2)
        store<u16>(s, sampleOf(back, load<f32>(at + 2 * apart)), 4)
      }
    }
  }
}

export function luminance(samples: usize, width: i32, red: f32, green: f32, blue: f32, target: usize, stride: i32, from: i32, to: i32): void {
  const r = red / 65535
  const g = green / 65535
  const b = blue / 65535
  for (let y = from; y < to; y++) {
    let s = samples + <usize>y * <usize>width * 6
    let out = target + (<usize>(y * stride) << 2)
    for (let x = 0; x < width; x++, s += 6, out += 4)
      store<f32>(out, r * <f32>load<u16>(s) + g * <f32>load<u16>(s, 2) + b * <f32>load<u16>(s, 4))
  }
}

@inline function added(sample: u16, add: f32): u16 { return <u16>min<f32>(65535, max<f32>(0, <f32>sample + add)) }

export function sharpenRows(
  samples: usize, width: i32, plain: usize, soft: usize, stride: i32, amount: f32, threshold: f32, confidence: usize, from: i32, to: i32,
): void {
  for (let y = from; y < to; y++) {
    let s = samples + <usize>y * <usize>width * 6
    let p = plain + (<usize>(y * stride) << 2)
    let q = soft + (<usize>(y * stride) << 2)
    let sure = confidence + (<usize>(y * width) << 1)
    for (let x = 0; x < width; x++, s += 6, p += 4, q += 4, sure += 2) {
      const off = load<f32>(p) - load<f32>(q)
      const beyond = abs(off) - threshold
      if (beyond <= 0) continue
      const part: f32 = confidence ? <f32>load<u16>(sure) * <f32>(1.0 / 65535.0) : 1
      const add = <f32>65535 * amount * part * (off > 0 ? beyond : -beyond) + <f32>0.5
      store<u16>(s, added(load<u16>(s), add))
      store<u16>(s, added(load<u16>(s, 2), add), 2)
      store<u16>(s, added(load<u16>(s, 4), add), 4)
    }
  }
}
