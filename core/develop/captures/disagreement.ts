import { gridIn, type Grid, type Interleaved } from '../../raster'
import { GREEN, type Filters } from './mosaic'

/** Cells, in px of the merged picture. */
const CELL_px = 16
/** Noise is told by the quietest part of the cells, for each of so many steps of brightness: out of focus nothing but noise is fine. */
const QUIETEST = 0.2
const STEPS = 12
/** A cell moved where captures differ by so many times what noise explains, and by what a shift of so many px would make. */
const ABOVE_NOISE = 3
const SHIFT_px = 0.35
/** Captures are brought to one brightness to within this. */
const EVENED = 1e-3
/** From here on a pixel may be full, and show no difference. */
const FULL = 60_000
/** Noise of photons grows with the light: by no more than this from one step of brightness to the next, squared. */
const MOST_GROWTH = 4

/**
 * What two captures that see green at one place make of it differs by noise alone, unless something moved between them. Differences are
 * gathered in cells; what exceeds noise is set against the detail of the cell: a shift s changes a value by s times its slope. Captures
 * half a pixel apart see no place together, but what moved between them stands in stripes.
 */
export class Disagreement {
  private readonly grid: Grid
  private readonly squares: Float64Array
  private readonly values: Float64Array
  private readonly counts: Uint32Array
  /** For each step of brightness, what noise makes of differences, squared, by the first capture alone: in each of its cells. */
  private readonly alone: number[][] = Array.from({ length: STEPS }, () => [])

  /** @param finer of the lattice: on one of half pixels, columns and rows beside each other are of different captures. */
  constructor(
    width: number,
    height: number,
    private readonly finer: 1 | 2,
  ) {
    this.grid = gridIn({ width, height }, CELL_px)
    const cells = this.grid.across * this.grid.down
    this.squares = new Float64Array(cells)
    this.values = new Float64Array(cells)
    this.counts = new Uint32Array(cells)
  }

  /**
   * Reads the noise of the first capture, by how green differs from the mean of the four greens diagonally beside it: where all of the
   * picture moved, differences between captures do not tell it.
   */
  begin({ samples, width, height }: Interleaved, filters: Filters): void {
    const odd = filters[0] === GREEN ? 0 : 1
    const at = (x: number, y: number) => samples[3 * (y * width + x) + GREEN]
    for (let top = 1; top + CELL_px < height; top += CELL_px)
      for (let left = 1; left + CELL_px < width; left += CELL_px) {
        let [square, value, count] = [0, 0, 0]
        for (let y = top; y < top + CELL_px; y++)
          for (let x = left + ((left + y + odd) & 1); x < left + CELL_px; x += 2, count++) {
            const around = (at(x - 1, y - 1) + at(x + 1, y - 1) + at(x - 1, y + 1) + at(x + 1, y + 1)) / 4
            square += (at(x, y) - around) ** 2
            value += at(x, y)
          }
        // A value has its own noise and a quarter of that of one; a difference has that of two.
        if (value < FULL * count) this.alone[stepOf(value / count)].push((2 * square) / (1.25 * count))
      }
  }

  /** Two values of one place of the merged picture. */
  add(x: number, y: number, value: number, other: number): void {
    if (value > FULL || other > FULL) return
    const cell = Math.min(this.grid.down - 1, (y / CELL_px) | 0) * this.grid.across + Math.min(this.grid.across - 1, (x / CELL_px) | 0)
    this.squares[cell] += (value - other) ** 2
    this.values[cell] += value
    this.counts[cell]++
  }

  /** What part of the merged picture moved, 0 … 1. */
  moved(merged: Interleaved): number {
    const noise = this.noise()
    let [moved, of] = [0, 0]
    this.counts.forEach((count, cell) => {
      if (count < CELL_px) return
      of++
      const value = this.values[cell] / count
      const evened = (EVENED * value) ** 2
      const differs = [this.squares[cell] / count, ...(this.finer === 2 ? this.striped(merged, cell) : [])]
      const excess = Math.max(...differs) - evened
      if (excess < ABOVE_NOISE * noise[stepOf(value)]) return
      const shift_px = Math.sqrt((excess - noise[stepOf(value)]) / Math.max(1, this.slope(merged, cell))) / this.finer
      if (shift_px > SHIFT_px) moved++
    })
    return of > 0 ? moved / of : 0
  }

  /** Squared difference that noise makes, for each step of brightness. */
  private noise(): number[] {
    const steps: number[][] = Array.from({ length: STEPS }, () => [])
    this.counts.forEach((count, cell) => count >= CELL_px && steps[stepOf(this.values[cell] / count)].push(this.squares[cell] / count))
    const quietest = (squares: number[]) => (squares.length > 0 ? squares.sort((a, b) => a - b)[Math.floor(QUIETEST * squares.length)] : Infinity)
    const found = steps.map((squares, k) => Math.min(quietest(squares), quietest(this.alone[k])))
    // A step of few cells, all of which moved, has to go by the one below.
    for (let k = 1; k < STEPS; k++) found[k] = Math.min(found[k], MOST_GROWTH * found[k - 1])
    return found.map((square) => Math.max(1, square))
  }

  /** Mean square of the slope of green along one direction, in a cell. */
  private slope(merged: Interleaved, cell: number): number {
    const { width } = merged
    const slopeAt = (green: (by: number) => number) => ((green(1) - green(-1)) ** 2 + (green(width) - green(-width)) ** 2) / 8
    return this.meanIn(merged, cell, 1, slopeAt)
  }

  /** Mean square of what green differs by from what the columns, and the rows, on both sides say (a cubic through four of them). */
  private striped(merged: Interleaved, cell: number): [number, number] {
    const stripes = (step: number) => (green: (by: number) => number) => {
      const between = (9 * (green(-step) + green(step)) - green(-3 * step) - green(3 * step)) / 16
      return (green(0) - between) ** 2
    }
    return [this.meanIn(merged, cell, 3, stripes(1)), this.meanIn(merged, cell, 3, stripes(merged.width))]
  }

  /** The mean of something over the places of a cell, told green so many places farther on; `margin` px of the picture are spared. */
  private meanIn({ samples, width, height }: Interleaved, cell: number, margin: number, of: (green: (by: number) => number) => number): number {
    const [left, top] = [(cell % this.grid.across) * CELL_px, Math.floor(cell / this.grid.across) * CELL_px]
    let [sum, count] = [0, 0]
    for (let y = Math.max(margin, top); y < Math.min(height - margin, top + CELL_px); y++)
      for (let x = Math.max(margin, left); x < Math.min(width - margin, left + CELL_px); x++, count++) {
        const at = 3 * (y * width + x) + GREEN
        sum += of((by) => samples[at + 3 * by])
      }
    return sum / Math.max(1, count)
  }
}

const stepOf = (value: number) => Math.min(STEPS - 1, Math.floor(STEPS * Math.sqrt(value / 65_536)))
