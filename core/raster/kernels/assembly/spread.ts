// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.
import { add, touch } from './light'

/** Light is gathered in halves, quarters … of the picture from this radius, in places, up to so many halvings. */
const COARSER: f64 = 3
const COARSEST: i32 = 5
const WIDEST: f64 = 120
/** Where the blur's radius changes by more than this from place to place, there is an edge and no slope. */
const STEEPEST: f64 = 0.3
/** A step of depth between neighbours that moves where a ray meets the surface by less than this, in samples, is let be. */
const CLOSE_ENOUGH: f64 = 0.1

@inline function subtract(at: usize, light: v128): void { v128.store(at, f32x4.sub(v128.load(at), light)) }

/** Notes where the rows of a disc about (x, y) begin and end. */
@inline function spread(grid: usize, touched: usize, width: i32, height: i32, x: i32, y: i32, disc: usize, all: v128): void {
  const stride = <usize>(width + 2) * 16
  const radius = load<i32>(disc)
  const light = f32x4.mul(all, v128.load32_splat(disc + 4))
  const first = max(0, y - radius)
  const last = min(height - 1, y + radius)
  let ends = disc + 16 + (<usize>(first - y + radius) << 4)
  let row = grid + <usize>first * stride
  for (let at = first; at <= last; at++, ends += 16, row += stride) {
    let left = x + load<i32>(ends)
    let right = x + load<i32>(ends + 8)
    if (right < 0 || left >= width) continue
    let missing = load<f32>(ends + 4)
    let part = load<f32>(ends + 12)
    if (left < 0) {
      // The part of a place that a row begins with lies outside, unless it is the one just before the first.
      missing = left == -1 ? max<f32>(0, missing - 1) : 0
      left = 0
    }
    if (right >= width) {
      right = width
      part = 0
    }
    touch(touched, at, left, min(width, right + 1))
    const lost = f32x4.mul(light, f32x4.splat(missing))
    const over = f32x4.mul(light, f32x4.splat(part))
    let p = row + (<usize>left << 4)
    add(p, f32x4.sub(light, lost))
    if (missing != 0) add(p + 16, lost)
    p = row + (<usize>right << 4)
    subtract(p, f32x4.sub(light, over))
    if (part != 0) subtract(p + 16, over)
  }
}

@inline function discOf(discs: usize, radius: f64): usize { return load<usize>(discs + (<usize>floor<f64>(radius * 16 + 0.5) << 2)) }

/** Gathers light in the block of places that it falls in, at the size that suits its blur. */
@inline function gather(levels: usize, x: i32, y: i32, radius: f64, light: v128): void {
  let level = 1
  while (level < COARSEST && radius >= COARSER * <f64>(1 << level)) level++
  const entry = levels + (<usize>level << 5)
  const column = (x >> level) - load<i32>(entry + 16)
  const row = (y >> level) - load<i32>(entry + 20)
  store<i32>(entry + 24, 1)
  touch(load<usize>(entry + 4), row, column, column + 1)
  const at = load<usize>(entry) + <usize>(row * load<i32>(entry + 8) + column) * 32
  add(at, light)
  store<f32>(at + 16, load<f32>(at + 16) + <f32>radius)
  store<f32>(at + 20, load<f32>(at + 20) + 1)
}

/** Reads a surface at every place of the picture's rows and spreads its light; see the twin. */
export function projectLight(
  colour: usize, inverse: usize, width: i32, height: i32, left: i32, top: i32, columns: usize,
  ratio: f64, nearer: f64, asideX: f64, asideY: f64, startU: f64, startV: f64, acrossU: f64, acrossV: f64, downU: f64, downV: f64,
  blur: f64, focus: f64, middle: f64, x0: i32, y0: i32, discs: usize, levels: usize, from: i32, to: i32,
): void {
  const grid = load<usize>(levels)
  const touched = load<usize>(levels + 4)
  const gridWidth = load<i32>(levels + 8)
  const gridHeight = load<i32>(levels + 12)
  const gridLeft = load<i32>(levels + 16)
  const gridTop = load<i32>(levels + 20)
  const parallax = abs(ratio * nearer)
  const aside = abs(asideX) + abs(asideY)
  const below = <usize>width << 2
  let depth = middle
  for (let row = from; row < to; row++) {
    const y = y0 + row
    const first = load<i32>(columns + (<usize>row << 3))
    const behind = load<i32>(columns + (<usize>row << 3) + 4)
    const rowU = startU + <f64>row * downU
    const rowV = startV + <f64>row * downV
    for (let x = first; x < behind; x++) {
      const u = rowU + <f64>(x - x0) * acrossU
      const v = rowV + <f64>(x - x0) * acrossV
      // Where a ray meets the surface depends on the surface's depth there; the neighbour's is nearly right.
      let again = true
      let i: usize = 0
      let tx: f64 = 0
      let ty: f64 = 0
      let outside = false
      let slopeX: f64 = 0
      let slopeY: f64 = 0
      let sx: f64 = 0
      let sy: f64 = 0
      let s: f64 = 0
      for (let round = 0; round < 2 && again; round++) {
        s = ratio * (1 + nearer * depth)
        sx = u * s + asideX * depth - <f64>left
        sy = v * s + asideY * depth - <f64>top
        if (!(sx >= 0 && sy >= 0 && sx < <f64>(width - 1) && sy < <f64>(height - 1))) {
          outside = true
          break
        }
        const ix = <i32>sx
        const iy = <i32>sy
        i = <usize>(iy * width + ix)
        tx = sx - <f64>ix
        ty = sy - <f64>iy
        const p = inverse + (i << 2)
        const above = <f64>load<f32>(p) + tx * (<f64>load<f32>(p + 4) - <f64>load<f32>(p))
        const under = <f64>load<f32>(p + below) + tx * (<f64>load<f32>(p + below + 4) - <f64>load<f32>(p + below))
        const here = above + ty * (under - above)
        slopeX = <f64>load<f32>(p + 4) - <f64>load<f32>(p)
        slopeY = under - above
        again = abs(here - depth) * (parallax * (abs(u) + abs(v)) + aside) > CLOSE_ENOUGH
        depth = here
      }
      if (outside) continue
      const away = 1 + nearer * depth
      const signed = blur * (focus - depth / away)
      const change = (-blur / (away * away)) * s
      const changeX = change * slopeX
      const changeY = change * slopeY
      if (abs(changeX) + abs(changeY) < STEEPEST) {
        sx -= 0.25 * signed * changeX * s
        sy -= 0.25 * signed * changeY * s
        if (sx >= 0 && sy >= 0 && sx < <f64>(width - 1) && sy < <f64>(height - 1)) {
          const ix = <i32>sx
          const iy = <i32>sy
          i = <usize>(iy * width + ix)
          tx = sx - <f64>ix
          ty = sy - <f64>iy
        }
      }
      const c = colour + (i << 4)
      const across = f32x4.splat(<f32>tx)
      const rest = f32x4.splat(<f32>(1 - tx))
      const upper = f32x4.add(f32x4.mul(v128.load(c), rest), f32x4.mul(v128.load(c + 16), across))
      const d = c + (below << 2)
      const lower = f32x4.add(f32x4.mul(v128.load(d), rest), f32x4.mul(v128.load(d + 16), across))
      const light = f32x4.add(f32x4.mul(upper, f32x4.splat(<f32>(1 - ty))), f32x4.mul(lower, f32x4.splat(<f32>ty)))
      if (f32x4.extract_lane(light, 3) == 0) continue
      const radius = min(WIDEST, abs(signed))
      if (radius < COARSER) spread(grid, touched, gridWidth, gridHeight, x - gridLeft, y - gridTop, discOf(discs, radius), light)
      else gather(levels, x, y, radius, light)
    }
  }
}

/** Spreads the blocks of a level of the picture, `left` and `top` places away from its grid, and empties them. */
export function spreadBlocks(
  grid: usize, gridTouched: usize, gridWidth: i32, gridHeight: i32, left: i32, top: i32, size: f64, softer: f64, blocks: usize, touched: usize, width: i32, discs: usize, from: i32, to: i32,
): void {
  const mean = f32x4.splat(<f32>(1 / (size * size)))
  for (let row = from; row < to; row++) {
    const entry = touched + (<usize>row << 3)
    const behind = load<i32>(entry + 4)
    for (let column = load<i32>(entry); column < behind; column++) {
      const at = blocks + <usize>(row * width + column) * 32
      const count = load<f32>(at + 20)
      if (count == 0) continue
      const radius = <f64>load<f32>(at + 16) / <f64>count
      const disc = discOf(discs, sqrt<f64>(max<f64>(0, radius * radius - softer)) / size)
      spread(grid, gridTouched, gridWidth, gridHeight, column + left, row + top, disc, f32x4.mul(v128.load(at), mean))
      v128.store(at, f32x4.splat(0))
      v128.store(at + 16, f32x4.splat(0))
    }
    store<i32>(entry, width)
    store<i32>(entry + 4, 0)
  }
}
