// @ts-nocheck: AssemblyScript has types and operators that TypeScript does not know.

// Light on a grid: red, green, blue and alpha of a place are one vector; rows are width + 2 places. `touched` holds, for each
// row, the first place that light fell on and the one behind the last. See the twin.

@inline export function add(at: usize, light: v128): void { v128.store(at, f32x4.add(v128.load(at), light)) }
@inline function rowAt(grid: usize, width: i32, y: i32): usize { return grid + <usize>(y * (width + 2)) * 16 }
@inline function firstOf(touched: usize, y: i32): i32 { return load<i32>(touched + (<usize>y << 3)) }
@inline function behindOf(touched: usize, y: i32): i32 { return load<i32>(touched + (<usize>y << 3) + 4) }
@inline export function touch(touched: usize, y: i32, first: i32, behind: i32): void {
  const at = touched + (<usize>y << 3)
  store<i32>(at, min(load<i32>(at), first))
  store<i32>(at + 4, max(load<i32>(at + 4), behind))
}

/** Turns the ends of rows into the light itself, in place. */
export function sumLight(grid: usize, touched: usize, width: i32, from: i32, to: i32): void {
  for (let y = from; y < to; y++) {
    const row = rowAt(grid, width, y)
    const behind = behindOf(touched, y)
    let sum = f32x4.splat(0)
    for (let x = firstOf(touched, y); x < behind; x++) {
      const at = row + (<usize>x << 4)
      sum = f32x4.add(sum, v128.load(at))
      v128.store(at, sum)
    }
    // What is left behind the last place are ends of rows that reach beyond it.
    for (let x = behind; x < min(width + 2, behind + 2); x++) v128.store(row + (<usize>x << 4), f32x4.splat(0))
  }
}

/** Makes a grid dark again, its whole length where it was never used. */
export function clearLight(grid: usize, touched: usize, width: i32, fresh: bool, from: i32, to: i32): void {
  for (let y = from; y < to; y++) {
    const row = rowAt(grid, width, y)
    const first = fresh ? 0 : firstOf(touched, y)
    const behind = fresh ? width : behindOf(touched, y)
    if (behind > first) memory.fill(row + (<usize>first << 4), 0, <usize>(behind + 2 - first) << 4)
    store<i32>(touched + (<usize>y << 3), width)
    store<i32>(touched + (<usize>y << 3) + 4, 0)
  }
}

/** Adds the light of another grid of the same size. */
export function joinLight(grid: usize, touched: usize, width: i32, other: usize, otherTouched: usize, from: i32, to: i32): void {
  for (let y = from; y < to; y++) {
    const first = firstOf(otherTouched, y)
    const behind = behindOf(otherTouched, y)
    if (behind <= first) continue
    touch(touched, y, first, behind)
    const start = <usize>(y * (width + 2) + first) << 4
    const end = start + (<usize>(behind - first) << 4)
    for (let o = start; o < end; o += 16) add(grid + o, v128.load(other + o))
  }
}

/** Adds a grid to the one of twice its size, bilinear; `left` and `top` are where the grids begin. */
export function enlargeLight(
  grid: usize, touched: usize, width: i32, left: i32, top: i32,
  coarse: usize, coarseTouched: usize, coarseWidth: i32, coarseLeft: i32, coarseTop: i32, from: i32, to: i32,
): void {
  const below = <usize>(coarseWidth + 2) * 16
  for (let y = from; y < to; y++) {
    // The middle of a fine place, in coarse ones: a quarter away from the nearest.
    const Y = y + top
    const iy = ((Y - 1) >> 1) - coarseTop
    const ty: f32 = Y & 1 ? 0.25 : 0.75
    const first = min(firstOf(coarseTouched, iy), firstOf(coarseTouched, iy + 1))
    const behind = max(behindOf(coarseTouched, iy), behindOf(coarseTouched, iy + 1))
    if (behind <= first) continue
    const begin = max(0, 2 * (first + coarseLeft) - 1 - left)
    const end = min(width, 2 * (behind + coarseLeft) + 1 - left)
    if (end <= begin) continue
    touch(touched, y, begin, end)
    const row = rowAt(grid, width, y)
    const upper = rowAt(coarse, coarseWidth, iy)
    for (let x = begin; x < end; x++) {
      const X = x + left
      const tx: f32 = X & 1 ? 0.25 : 0.75
      const a = upper + (<usize>(((X - 1) >> 1) - coarseLeft) << 4)
      const b = a + below
      const above = f32x4.add(f32x4.mul(v128.load(a), f32x4.splat(1 - tx)), f32x4.mul(v128.load(a + 16), f32x4.splat(tx)))
      const under = f32x4.add(f32x4.mul(v128.load(b), f32x4.splat(1 - tx)), f32x4.mul(v128.load(b + 16), f32x4.splat(tx)))
      add(row + (<usize>x << 4), f32x4.add(f32x4.mul(above, f32x4.splat(1 - ty)), f32x4.mul(under, f32x4.splat(ty))))
    }
  }
}

/** Lays the light of a grid over what is there. */
export function coverLight(below: usize, grid: usize, touched: usize, width: i32, backdrop: bool, from: i32, to: i32): void {
  for (let y = from; y < to; y++) {
    const behind = behindOf(touched, y)
    for (let x = firstOf(touched, y); x < behind; x++) {
      const light = v128.load(rowAt(grid, width, y) + (<usize>x << 4))
      const alpha = f32x4.extract_lane(light, 3)
      if (alpha <= 1e-6 && !backdrop) continue
      const o = below + (<usize>(y * width + x) << 4)
      const even: f32 = 1 / max(alpha, backdrop ? <f32>1e-3 : <f32>1)
      const through: f32 = backdrop ? 0 : 1 - min(<f32>1, alpha)
      v128.store(o, f32x4.add(f32x4.mul(v128.load(o), f32x4.splat(through)), f32x4.mul(light, f32x4.splat(even))))
    }
  }
}
