import { WIDEST } from '../raster/kernels'
import type { CameraSetup, View } from './camera'
import type { Extent, SampledLayer } from './sampledScene'

/** How finely places are distinguished, in samples. */
const CELL_BITS = 3
const CELL = 1 << CELL_BITS
/** The lens may be opened so far without the scene being sampled again. */
export const OPEN_F = 2.8
/** Focus may be moved nearer than the scene begins, and brings the image plane and so the blur away from where it was sampled. */
const NEARER = 1.6
/** A breath of wind carries a surface farther than it usually sways. */
const GUST = 2

/**
 * What nearer surfaces hide in every picture that can be taken from one place, whatever the focus: it need not be
 * sampled. A surface hides what lies behind its inside, so far from its edge that neither its own blur nor that of what
 * is behind reaches there. On a rail the camera moves and sees behind things: there nothing is left out.
 */
export class Hidden {
  private readonly columns: number
  private readonly rows: number
  private readonly hidden: Uint8Array

  constructor(private readonly extent: Extent) {
    this.columns = (Math.ceil(extent.right) - Math.floor(extent.left) + CELL) >> CELL_BITS
    this.rows = (Math.ceil(extent.bottom) - Math.floor(extent.top) + CELL) >> CELL_BITS
    this.hidden = new Uint8Array(this.columns * this.rows)
  }

  /** Whether what lies at a sample is hidden. */
  at(u: number, v: number): boolean {
    const column = (u - Math.floor(this.extent.left)) >> CELL_BITS
    const row = (v - Math.floor(this.extent.top)) >> CELL_BITS
    return this.hidden[row * this.columns + column] === 1
  }

  /** Takes in what a surface hides, `margin` samples inside its edge; one that sways or runs hides nothing. */
  add(layer: SampledLayer, margin: number): void {
    if (layer.moving || layer.sway_px > 0) return
    const sums = this.sumsOf(this.opaqueCells(layer))
    const cells = Math.ceil(margin / CELL) + 1
    const wide = this.columns + 1
    for (let row = 0; row < this.rows; row++) {
      // What lies outside the extent is never drawn: there nothing can shine through.
      const [top, bottom] = [Math.max(0, row - cells), Math.min(this.rows, row + cells + 1)]
      for (let column = 0; column < this.columns; column++) {
        const [left, right] = [Math.max(0, column - cells), Math.min(this.columns, column + cells + 1)]
        const opaque = sums[bottom * wide + right] - sums[top * wide + right] - sums[bottom * wide + left] + sums[top * wide + left]
        if (opaque === (bottom - top) * (right - left)) this.hidden[row * this.columns + column] = 1
      }
    }
  }

  /** Cells in which the surface stops all light, 1 each; what lies outside the extent counts as stopped. */
  private opaqueCells({ left, top, width, height, colour }: SampledLayer): Uint8Array {
    const { extent, columns, rows } = this
    const cells = new Uint8Array(columns * rows)
    const [l0, t0] = [Math.floor(extent.left), Math.floor(extent.top)]
    for (let row = 0; row < rows; row++) {
      const [v0, v1] = [t0 + row * CELL, Math.min(t0 + (row + 1) * CELL, Math.floor(extent.bottom))]
      if (v0 < top || v1 > top + height) continue
      for (let column = 0; column < columns; column++) {
        const [u0, u1] = [l0 + column * CELL, Math.min(l0 + (column + 1) * CELL, Math.floor(extent.right))]
        if (u0 < left || u1 > left + width) continue
        let opaque = 1
        for (let v = v0; v < v1 && opaque; v++)
          for (let u = u0, i = 4 * ((v - top) * width + u0 - left) + 3; u < u1; u++, i += 4) if (colour[i] < 1) opaque = 0
        cells[row * columns + column] = opaque
      }
    }
    return cells
  }

  /** Sums of all cells above and to the left, one row and column more than there are cells (Crow, 1984). */
  private sumsOf(cells: Uint8Array): Int32Array {
    const { columns, rows } = this
    const wide = columns + 1
    const sums = new Int32Array(wide * (rows + 1))
    for (let row = 0; row < rows; row++)
      for (let column = 0, along = 0; column < columns; column++) {
        along += cells[row * columns + column]
        sums[(row + 1) * wide + column + 1] = sums[row * wide + column + 1] + along
      }
    return sums
  }
}

/**
 * How far inside an opaque edge light may still come through, in samples, for scenes no nearer to the pupil than
 * `nearest_mm`: by the blur of what hides and of what is hidden, each at its widest, and by the wind.
 */
export function marginOf({ fNumber }: CameraSetup, view: View, nearest_mm: number, sway_px: number, density: number): number {
  const opened = fNumber / Math.min(fNumber, OPEN_F)
  const radius_px = Math.min(WIDEST, (opened * NEARER * view.aperture_mm * view.image_mm) / view.pitch_mm / 2 / nearest_mm)
  return (2 * radius_px + GUST * sway_px + 2) * density
}
