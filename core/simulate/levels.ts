import type { Rectangle } from '../raster'
import { clearGrid, createLightGrid, Discs, spread, sumRows, type LightGrid } from './spread'

/** The radius from which light is gathered at half the size, then a quarter … */
const COARSER_px = 3
const COUNT = 6

/** The picture at one size: where it begins, in places of that size, the light spread on it and the light yet to be. */
interface Level {
  left: number
  top: number
  grid: LightGrid
  blocks: Blocks
}

/** Light gathered in blocks of places: colour, alpha, sum of radii and count. */
interface Blocks {
  left: number
  top: number
  width: number
  height: number
  data: Float32Array
  /** For each row, the first block that holds light and the one behind the last. */
  touched: Int32Array
}

/**
 * Light that is spread at the size that suits its blur: wide discs in halves, quarters, eighths of the picture. One is
 * made for a picture and used for its surfaces one after the other.
 */
export class Levels {
  private readonly discs = new Discs()
  private readonly fine: LightGrid
  private readonly levels: (Level | undefined)[] = []
  private readonly used: boolean[] = []
  private readonly extents: { left: number; top: number; right: number; bottom: number }[]

  /** `frame` is what will be drawn; light comes from no farther than `reach` outside it. */
  constructor(
    private readonly frame: Rectangle,
    private readonly reach: number,
  ) {
    this.fine = createLightGrid(frame.width, frame.height)
    const { x, y, width, height } = frame
    this.extents = [{ left: x, top: y, right: x + width, bottom: y + height }]
    for (let level = 1; level < COUNT; level++) {
      const { left, top, right, bottom } = this.extents[level - 1]
      this.extents.push({
        left: Math.floor(left / 2) - 1,
        top: Math.floor(top / 2) - 1,
        right: Math.ceil(right / 2) + 1,
        bottom: Math.ceil(bottom / 2) + 1,
      })
    }
  }

  /** Adds the light of the place (x, y) of the picture. */
  add(x: number, y: number, radius: number, light: Float32Array): void {
    if (radius < COARSER_px) return spread(this.fine, x - this.frame.x, y - this.frame.y, this.discs.of(radius), light, 0)
    let level = 1
    while (level < COUNT - 1 && radius >= COARSER_px << level) level++
    const { left, top, width, data, touched } = (this.levels[level] ??= this.createLevel(level)).blocks
    this.used[level] = true
    const column = (x >> level) - left
    const row = (y >> level) - top
    if (column < touched[2 * row]) touched[2 * row] = column
    if (column >= touched[2 * row + 1]) touched[2 * row + 1] = column + 1
    const at = (row * width + column) * 6
    data[at] += light[0]
    data[at + 1] += light[1]
    data[at + 2] += light[2]
    data[at + 3] += light[3]
    data[at + 4] += radius
    data[at + 5]++
  }

  /** All light on the picture, four values a place in rows of width + 2; good until the next surface. */
  light(): LightGrid {
    sumRows(this.fine)
    for (let level = COUNT - 1; level > 0; level--) {
      if (!this.used[level]) continue
      const coarse = this.levels[level]!
      this.spreadBlocks(coarse, level)
      const below =
        level === 1 ? { left: this.frame.x, top: this.frame.y, grid: this.fine } : (this.levels[level - 1] ??= this.createLevel(level - 1))
      addEnlarged(below, coarse)
      this.used[level - 1] = true
    }
    return this.fine
  }

  /** Makes ready for the next surface. */
  clear(): void {
    clearGrid(this.fine)
    this.levels.forEach((level, k) => level && this.used[k] && clearGrid(level.grid))
    this.used.fill(false)
  }

  private createLevel(level: number): Level {
    const { left, top, right, bottom } = this.extents[level]
    const { x, y, width, height } = this.frame
    const at = (place: number) => place >> level
    const first = { left: at(x - this.reach) - 1, top: at(y - this.reach) - 1 }
    const size = { width: at(x + width + this.reach) - first.left + 2, height: at(y + height + this.reach) - first.top + 2 }
    const touched = Int32Array.from({ length: size.height * 2 }, (_, k) => (k % 2 === 0 ? size.width : 0))
    return {
      left,
      top,
      grid: createLightGrid(right - left, bottom - top),
      blocks: { ...first, ...size, data: new Float32Array(size.width * size.height * 6), touched },
    }
  }

  /** Spreads what was gathered, adds what comes from coarser levels already lies there as light. */
  private spreadBlocks({ left, top, grid, blocks }: Level, level: number): void {
    const { data, touched, width, height } = blocks
    const size = 1 << level
    const fresh = createLightGrid(grid.width, grid.height)
    const light = new Float32Array(4)
    for (let row = 0; row < height; row++) {
      for (let column = touched[2 * row], at = (row * width + column) * 6; column < touched[2 * row + 1]; column++, at += 6) {
        const count = data[at + 5]
        if (count === 0) continue
        const mean = 1 / (size * size)
        for (let c = 0; c < 4; c++) light[c] = data[at + c] * mean
        spread(fresh, column + blocks.left - left, row + blocks.top - top, this.discs.of(data[at + 4] / count / size), light, 0)
        data.fill(0, at, at + 6)
      }
      touched[2 * row] = width
      touched[2 * row + 1] = 0
    }
    sumRows(fresh)
    addSame(grid, fresh)
  }
}

function addSame(to: LightGrid, from: LightGrid): void {
  for (let y = 0; y < to.height; y++) {
    const [first, behind] = [from.touched[2 * y], from.touched[2 * y + 1]]
    if (behind <= first) continue
    widen(to, y, first, behind)
    const row = y * (to.width + 2) * 4
    for (let i = row + first * 4; i < row + behind * 4; i++) to.ends[i] += from.ends[i]
  }
}

function widen({ touched }: LightGrid, y: number, first: number, behind: number): void {
  if (first < touched[2 * y]) touched[2 * y] = first
  if (behind > touched[2 * y + 1]) touched[2 * y + 1] = behind
}

type Placed = Pick<Level, 'left' | 'top' | 'grid'>

/** Adds a grid to the one of twice its size, bilinear. */
function addEnlarged({ left, top, grid: fine }: Placed, { left: coarseLeft, top: coarseTop, grid: coarse }: Placed): void {
  const coarseRow = (coarse.width + 2) * 4
  for (let y = 0; y < fine.height; y++) {
    // The middle of a fine place, in coarse ones: a quarter away from the nearest.
    const Y = y + top
    const iy = ((Y - 1) >> 1) - coarseTop
    const ty = Y & 1 ? 0.25 : 0.75
    const first = Math.min(coarse.touched[2 * iy], coarse.touched[2 * iy + 2])
    const behind = Math.max(coarse.touched[2 * iy + 1], coarse.touched[2 * iy + 3])
    if (behind <= first) continue
    const from = Math.max(0, 2 * (first + coarseLeft) - 1 - left)
    const to = Math.min(fine.width, 2 * (behind + coarseLeft) + 1 - left)
    if (to <= from) continue
    widen(fine, y, from, to)
    const out = y * (fine.width + 2) * 4
    const { ends } = coarse
    for (let x = from; x < to; x++) {
      const X = x + left
      const tx = X & 1 ? 0.25 : 0.75
      const a = iy * coarseRow + (((X - 1) >> 1) - coarseLeft) * 4
      const b = a + coarseRow
      const wa = (1 - tx) * (1 - ty)
      const wb = tx * (1 - ty)
      const wc = (1 - tx) * ty
      const wd = tx * ty
      const o = out + 4 * x
      fine.ends[o] += wa * ends[a] + wb * ends[a + 4] + wc * ends[b] + wd * ends[b + 4]
      fine.ends[o + 1] += wa * ends[a + 1] + wb * ends[a + 5] + wc * ends[b + 1] + wd * ends[b + 5]
      fine.ends[o + 2] += wa * ends[a + 2] + wb * ends[a + 6] + wc * ends[b + 2] + wd * ends[b + 6]
      fine.ends[o + 3] += wa * ends[a + 3] + wb * ends[a + 7] + wc * ends[b + 3] + wd * ends[b + 7]
    }
  }
}
