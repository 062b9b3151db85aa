// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.

import { rowOf } from './memory'

/** Places that a piece of a path takes, see the twin. */
const PIECE: usize = 7 << 2
const FAR: f32 = 3e38

/** Each value, or 0 where it is below. */
@inline function risen(value: v128): v128 { return v128.andnot(value, f32x4.lt(value, f32x4.splat(0))) }

@inline function strengthAt(square: v128, core: v128, radius: v128, perFall: v128, opacity: v128): v128 {
  const one = f32x4.splat(1)
  const distance = f32x4.sqrt(square)
  const t = f32x4.pmin(f32x4.mul(risen(f32x4.sub(distance, core)), perFall), one)
  const left = f32x4.sub(one, t)
  const falling = f32x4.mul(f32x4.mul(opacity, f32x4.mul(left, left)), f32x4.add(one, f32x4.add(t, t)))
  return v128.bitselect(opacity, v128.andnot(falling, f32x4.ge(distance, radius)), f32x4.le(distance, core))
}

/** How strongly a stroke acts on each pixel of a rectangle (see the twin): squared distances in this part's line, then strengths. */
export function strokeStrength(
  pieces: usize, count: i32, radius: f32, core: f32, opacity: f32, out: usize, width: i32,
  rows: usize, rowsBytes: i32, part: i32, from: i32, to: i32,
): void {
  const line = rowOf(rows, rowsBytes, part)
  const end = line + (<usize>width << 2)
  const perFall = f32x4.splat(radius > core ? <f32>1 / (radius - core) : <f32>0)
  const one = f32x4.splat(1)
  const four = f32x4.splat(4)
  for (let y = from; y < to; y++) {
    for (let p = line; p < end; p += 16) v128.store(p, f32x4.splat(FAR))
    for (let k = 0, piece = pieces; k < count; k++, piece += PIECE) {
      const ux = load<f32>(piece, 16)
      const uy = load<f32>(piece, 20)
      const py = <f32>y - load<f32>(piece, 8) - load<f32>(piece, 12)
      if (py < min(<f32>0, uy) - radius || py > max(<f32>0, uy) + radius) continue
      const left = load<f32>(piece)
      const first = max(0, <i32>Mathf.floor(left + min(<f32>0, ux) - radius)) & ~3
      const last = min(width - 1, <i32>Mathf.ceil(left + <f32>1 + max(<f32>0, ux) + radius))
      const perLength = f32x4.splat(load<f32>(piece, 24))
      const alongY = f32x4.splat(py * uy)
      const fraction = f32x4.splat(load<f32>(piece, 4))
      const acrossX = f32x4.splat(ux)
      const acrossY = f32x4.splat(uy)
      const upY = f32x4.splat(py)
      let whole = f32x4.add(f32x4.splat(<f32>first - left), f32x4(0, 1, 2, 3))
      for (let x = first; x <= last; x += 4, whole = f32x4.add(whole, four)) {
        const at = line + (<usize>x << 2)
        const px = f32x4.sub(whole, fraction)
        const along = f32x4.mul(f32x4.add(f32x4.mul(px, acrossX), alongY), perLength)
        const t = f32x4.pmin(one, risen(along))
        const dx = f32x4.sub(px, f32x4.mul(t, acrossX))
        const dy = f32x4.sub(upY, f32x4.mul(t, acrossY))
        const square = f32x4.add(f32x4.mul(dx, dx), f32x4.mul(dy, dy))
        v128.store(at, f32x4.pmin(v128.load(at), square))
      }
    }
    for (let p = line; p < end; p += 16)
      v128.store(p, strengthAt(v128.load(p), f32x4.splat(core), f32x4.splat(radius), perFall, f32x4.splat(opacity)))
    memory.copy(out + <usize>y * (<usize>width << 2), line, <usize>width << 2)
  }
}

/** Four values of a picture, and of what is laid over it, mixed by their strengths and rounded. */
@inline function laid4(below: usize, above: usize, share: v128): v128 {
  const p = f32x4.convert_i32x4_u(v128.load16x4_u(below))
  const difference = f32x4.sub(f32x4.convert_i32x4_u(v128.load16x4_u(above)), p)
  const mixed = f32x4.add(f32x4.add(p, f32x4.mul(share, difference)), f32x4.splat(0.5))
  return i32x4.trunc_sat_f32x4_s(mixed)
}

/** Lays one picture over another by a strength for each pixel (see the twin), four pixels at a time. */
export function layOver(picture: usize, over: usize, strength: usize, width: i32, from: i32, to: i32): void {
  const end = <usize>(to * width)
  let i = <usize>(from * width)
  for (; i + 4 <= end; i += 4) {
    const shares = v128.load(strength + (i << 2))
    const below = picture + 6 * i
    const above = over + 6 * i
    const first = laid4(below, above, v128.shuffle<f32>(shares, shares, 0, 0, 0, 1))
    const second = laid4(below + 8, above + 8, v128.shuffle<f32>(shares, shares, 1, 1, 2, 2))
    const third = laid4(below + 16, above + 16, v128.shuffle<f32>(shares, shares, 2, 3, 3, 3))
    v128.store(below, i16x8.narrow_i32x4_u(first, second))
    v128.store64_lane(below + 16, i16x8.narrow_i32x4_u(third, third), 0)
  }
  for (; i < end; i++) {
    const share = load<f32>(strength + (i << 2))
    for (let o = 6 * i; o < 6 * i + 6; o += 2) {
      const p = <f32>load<u16>(picture + o)
      store<u16>(picture + o, <u16>(p + share * (<f32>load<u16>(over + o) - p) + <f32>0.5))
    }
  }
}
