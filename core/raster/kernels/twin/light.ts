import { floats } from './memory'

/**
 * Light on a grid: red, green, blue and alpha of each place, in rows of width + 2 places of f32, at the byte offset `grid`.
 * `touched` holds two whole numbers for each row: the first place that light fell on and the one behind the last; most
 * surfaces cover little of a picture.
 */
export const wholes = (memory: ArrayBuffer, at: number) => new Int32Array(memory, at)

export function touch(touched: Int32Array, y: number, first: number, behind: number): void {
  touched[2 * y] = Math.min(touched[2 * y], first)
  touched[2 * y + 1] = Math.max(touched[2 * y + 1], behind)
}

/** Turns the ends of rows into the light itself, in place. */
export function sumLight(memory: ArrayBuffer, grid: number, touched: number, width: number, from: number, to: number): void {
  const [lights, rows] = [floats(memory, grid), wholes(memory, touched)]
  for (let y = from; y < to; y++) {
    const start = 4 * y * (width + 2)
    const [first, behind] = [rows[2 * y], rows[2 * y + 1]]
    for (let i = start + 4 * first + 4; i < start + 4 * behind; i++) lights[i] += lights[i - 4]
    // What is left behind the last place are ends of rows that reach beyond it.
    lights.fill(0, start + 4 * behind, start + 4 * Math.min(width + 2, behind + 2))
  }
}

/** Makes a grid dark again, its whole length where it is `fresh`: never used before. */
export function clearLight(memory: ArrayBuffer, grid: number, touched: number, width: number, fresh: number, from: number, to: number): void {
  const [lights, rows] = [floats(memory, grid), wholes(memory, touched)]
  for (let y = from; y < to; y++) {
    const start = 4 * y * (width + 2)
    const [first, behind] = fresh ? [0, width] : [rows[2 * y], rows[2 * y + 1]]
    if (behind > first) lights.fill(0, start + 4 * first, start + 4 * (behind + 2))
    rows[2 * y] = width
    rows[2 * y + 1] = 0
  }
}

/** Adds the light of another grid of the same size. */
export function joinLight(
  memory: ArrayBuffer,
  grid: number,
  touched: number,
  width: number,
  other: number,
  otherTouched: number,
  from: number,
  to: number,
): void {
  const [lights, others, rows] = [floats(memory, grid), floats(memory, other), wholes(memory, otherTouched)]
  for (let y = from; y < to; y++) {
    const [first, behind] = [rows[2 * y], rows[2 * y + 1]]
    if (behind <= first) continue
    touch(wholes(memory, touched), y, first, behind)
    const start = y * (width + 2)
    for (let i = 4 * (start + first); i < 4 * (start + behind); i++) lights[i] += others[i]
  }
}

/** Adds a grid to the one of twice its size, bilinear; `left` and `top` are where the grids begin, each in its own places. */
export function enlargeLight(
  memory: ArrayBuffer,
  grid: number,
  touched: number,
  width: number,
  left: number,
  top: number,
  coarse: number,
  coarseTouched: number,
  coarseWidth: number,
  coarseLeft: number,
  coarseTop: number,
  from: number,
  to: number,
): void {
  const [lights, others, rows] = [floats(memory, grid), floats(memory, coarse), wholes(memory, coarseTouched)]
  for (let y = from; y < to; y++) {
    // The middle of a fine place, in coarse ones: a quarter away from the nearest.
    const Y = y + top
    const iy = ((Y - 1) >> 1) - coarseTop
    const ty = Y & 1 ? 0.25 : 0.75
    const first = Math.min(rows[2 * iy], rows[2 * iy + 2])
    const behind = Math.max(rows[2 * iy + 1], rows[2 * iy + 3])
    const begin = Math.max(0, 2 * (first + coarseLeft) - 1 - left)
    const end = Math.min(width, 2 * (behind + coarseLeft) + 1 - left)
    if (behind <= first || end <= begin) continue
    touch(wholes(memory, touched), y, begin, end)
    for (let x = begin; x < end; x++) {
      const X = x + left
      const tx = X & 1 ? 0.25 : 0.75
      for (let c = 0; c < 4; c++) {
        const a = 4 * (iy * (coarseWidth + 2) + ((X - 1) >> 1) - coarseLeft) + c
        const b = a + 4 * (coarseWidth + 2)
        const above = (1 - tx) * others[a] + tx * others[a + 4]
        lights[4 * (y * (width + 2) + x) + c] += (1 - ty) * above + ty * ((1 - tx) * others[b] + tx * others[b + 4])
      }
    }
  }
}

/**
 * Lays the light of a grid over what is there, rows of `width` places. Blur radii that change along a surface leave its sum
 * a little off one; that is evened. Through a backdrop nothing is seen.
 */
export function coverLight(
  memory: ArrayBuffer,
  below: number,
  grid: number,
  touched: number,
  width: number,
  backdrop: number,
  from: number,
  to: number,
): void {
  const [under, lights, rows] = [floats(memory, below), floats(memory, grid), wholes(memory, touched)]
  for (let y = from; y < to; y++) {
    for (let x = rows[2 * y]; x < rows[2 * y + 1]; x++) {
      const light = 4 * (y * (width + 2) + x)
      const alpha = lights[light + 3]
      if (alpha <= 1e-6 && !backdrop) continue
      const even = 1 / Math.max(alpha, backdrop ? 1e-3 : 1)
      const through = backdrop ? 0 : 1 - Math.min(1, alpha)
      for (let c = 0, o = 4 * (y * width + x); c < 4; c++) under[o + c] = under[o + c] * through + lights[light + c] * even
    }
  }
}
