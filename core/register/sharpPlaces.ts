import { invert, apply, type Similarity } from '../raster'
import { POINT } from '../raster/kernels'
import type { Link } from './link'
import type { Prepared } from './prepare'

/** One in so many points is kept of each frame: enough to tell where it is sharp. */
const KEPT = 8
/** Parts across and down in which it is measured. */
const TILES = { across: 24, down: 16 }

/** Where in the picture each frame of a series is sharp, and so at what depth a link between two of them was measured. */
export class SharpPlaces {
  /** Of each frame x and y from the middle, in px of the full picture, and the square of the gradient, in turn. */
  private readonly frames: Float32Array[] = []
  private height_px = 1

  constructor(private readonly width_px: number) {}

  add({ levels: [finest] }: Prepared): void {
    const { points, width, height } = finest
    const size = this.width_px / width
    this.height_px = height * size
    const kept = new Float32Array(3 * Math.ceil(points.length / POINT.size / KEPT))
    for (let o = 0, k = 0; o < points.length; o += KEPT * POINT.size, k += 3) {
      kept[k] = points[o + POINT.x] * size
      kept[k + 1] = points[o + POINT.y] * size
      kept[k + 2] = points[o + POINT.gradientX] ** 2 + points[o + POINT.gradientY] ** 2
    }
    this.frames.push(kept)
  }

  /**
   * The depth at which each link was measured, in places of the series: 3.5 is halfway between what the frames at 3 and 4
   * are focused on. A part of the picture lies where it is sharpest; at each depth there is as much as the parts there are
   * strong, and it counts by how sharp it is in both frames, as it does when they are aligned. `motions` lead from one frame,
   * the same for all, to each.
   */
  depthsOf(links: Link[], motions: Similarity[]): number[] {
    const energies = this.frames.map((points, k) => this.energiesOf(points, invert(motions[k])))
    const curves = Array.from({ length: TILES.across * TILES.down }, (_, tile) => sharpnessCurve(energies.map((energy) => energy[tile])))
    const strength = new Float64Array(this.frames.length)
    for (const { peak, values } of curves) strength[peak] += values[peak]
    const sharpness = sharpnessAway(curves, this.frames.length)
    return links.map(({ from, to }) => {
      const weights = strength.map((there, k) => there * Math.sqrt(sharpness[Math.abs(k - from)] * sharpness[Math.abs(k - to)]))
      const sum = weights.reduce((all, weight) => all + weight, 0)
      return sum > 0 ? weights.reduce((all, weight, k) => all + weight * k, 0) / sum : (from + to) / 2
    })
  }

  private energiesOf(points: Float32Array, back: Similarity): Float64Array {
    const energies = new Float64Array(TILES.across * TILES.down)
    for (let k = 0; k < points.length; k += 3) {
      const [x, y] = apply(back, points[k], points[k + 1])
      const column = Math.floor((x / this.width_px + 0.5) * TILES.across)
      const row = Math.floor((y / this.height_px + 0.5) * TILES.down)
      if (column >= 0 && column < TILES.across && row >= 0 && row < TILES.down) energies[row * TILES.across + column] += points[k + 2]
    }
    return energies
  }
}

/** How sharp a part of the picture is along the series, and where most. */
interface SharpnessCurve {
  values: number[]
  peak: number
}

/** What a part has wherever the focus is tells nothing: noise, and edges too coarse to blur. */
function sharpnessCurve(energies: number[]): SharpnessCurve {
  const least = Math.min(...energies)
  const values = energies.map((energy) => energy - least)
  return { values, peak: values.indexOf(Math.max(...values)) }
}

/** How sharp a part of the picture is so many frames away from where it is sharpest, as part of that: the middle of all parts. */
function sharpnessAway(curves: SharpnessCurve[], count: number): number[] {
  return Array.from({ length: count }, (_, away) => {
    if (away === 0) return 1
    const shares = curves.flatMap(({ values, peak }) =>
      [peak - away, peak + away].flatMap((k) => (k >= 0 && k < count && values[peak] > 0 ? [values[k] / values[peak]] : [])),
    )
    return shares.sort((a, b) => a - b)[shares.length >> 1] ?? 0
  })
}
