import { reduce, type Grid, type Plane, type Rectangle } from '../raster'
import { clippedIn, halosIn } from './beside'
import { CELL_px, detailIn, gridOf } from './cells'
import { noiseIn, type Evidence } from './findings'
import { ghostsIn } from './ghosts'
import type { Finding } from './place'
import { crossingsIn, softIn } from './sharpness'

/**
 * Compares the frames of a series with the picture fused from them, each frame once. Keeps of each the energy of its detail and a
 * picture a quarter of the size.
 */
export class Inspector {
  private readonly grid: Grid
  private readonly detail: Float32Array[] = []
  private readonly quarters: Plane[] = []

  /** `fused` is the luma of the picture, encoded, 0 … 1, small: some 600 to 1600 px wide. */
  constructor(private readonly fused: Plane) {
    this.grid = gridOf(fused)
  }

  /** Takes the next frame's luma, laid on the picture, in focus order. */
  add(luma: Plane): void {
    this.detail.push(detailIn(luma, this.grid))
    this.quarters.push(quarter(luma))
  }

  /** What is worth a look, in cells, of the kinds that frames and picture tell by themselves. */
  findings(): Finding[] {
    const evidence = this.evidence()
    return [...ghostsIn(evidence), ...softIn(evidence), ...crossingsIn(evidence), ...halosIn(evidence), ...clippedIn(this.fused, this.grid)]
  }

  /** A rectangle of cells in px of the small picture. */
  inPicture({ x, y, width, height }: Rectangle): Rectangle {
    return { x: x * CELL_px, y: y * CELL_px, width: width * CELL_px, height: height * CELL_px }
  }

  /** Cells whose sharpest frame is one of these, as marks; only where there is detail. */
  sharpestWithin(frames: number[]): { marked: Uint8Array; grid: Grid } {
    const { detail, noise } = this.evidence()
    const marked = new Uint8Array(this.grid.across * this.grid.down)
    for (let cell = 0; cell < marked.length; cell++) {
      const best = detail.reduce((at, energies, k) => (energies[cell] > detail[at][cell] ? k : at), 0)
      marked[cell] = Number(frames.includes(best) && detail[best][cell] > 4 * noise)
    }
    return { marked, grid: this.grid }
  }

  private evidence(): Evidence {
    const { grid, detail, quarters } = this
    return { grid, detail, quarters, fused: detailIn(this.fused, grid), fusedQuarter: quarter(this.fused), noise: noiseIn(detail) }
  }
}

const quarter = (plane: Plane) => reduce(reduce(plane))
