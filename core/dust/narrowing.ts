import { blurred, type Plane } from '../raster'
import type { Planes, Slab } from '../raster/kernels'

/** What is wider than this part of the width is no speck. */
export const WIDE = 1 / 40

/** What is wide is told from pictures halved so many times at the most, */
const MOST_HALVINGS = 2
/** and no more than leaves it this wide there. */
const LEAST_WIDE_px = 1.6

/** Takes what is wide, a Gaussian of σ = WIDE of the width, out of pictures of one size; in the kernels' memory, which nothing else may use meanwhile. */
export class Narrowing {
  /** From the whole size to the least. */
  private readonly levels: Slab[]
  private readonly sigma_px: number

  constructor(private readonly planes: Planes) {
    const sigma_px = WIDE * planes.width
    const halvings = Math.max(0, Math.min(MOST_HALVINGS, Math.floor(Math.log2(sigma_px / LEAST_WIDE_px))))
    this.levels = Array.from({ length: halvings + 1 }, (_, k) => planes.plane(k))
    // Each halving smooths by a variance of 1 px² of the size that it starts from, and so does coming back to that.
    const smoothed_px2 = (2 * (4 ** halvings - 1)) / 3
    this.sigma_px = Math.sqrt((sigma_px ** 2 - smoothed_px2) / 4 ** halvings)
  }

  /** The plane without what is wide in it. */
  of(plane: Plane): Plane {
    const { planes, levels } = this
    const last = levels.length - 1
    planes.put(plane, levels[0])
    for (let k = 0; k < last; k++) planes.halve(levels[k], levels[k + 1])
    planes.put(blurred(planes.get(levels[last]), this.sigma_px), levels[last])
    for (let k = last; k > 0; k--) planes.expand(levels[k], levels[k - 1])
    const out = planes.get(levels[0])
    for (let i = 0; i < out.data.length; i++) out.data[i] = plane.data[i] - out.data[i]
    return out
  }
}
