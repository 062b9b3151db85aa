import { createPlane, smooth, type Plane } from '../raster'
import { cellAt, cellMeans } from './cells'
import { finestBand, type Comparer } from './disagreement'
import type { NoiseCurve } from './noise'
import { withoutParallax } from './parallax'
import type { Planes } from '../raster/kernels'

/** A place cut in two by a border is as bad as so many such places whose detail is lost. */
const BORDER_times = 4

/** By how many px what two frames show lies elsewhere, and the finest detail of what moved, at half the size. */
export function between(
  comparer: Comparer,
  earlier: Plane,
  later: Plane,
  noise: NoiseCurve,
  depth: Plane,
  inside: (x: number, y: number) => boolean,
): { displaced: Plane; fine: Plane; pushed: boolean } {
  comparer.take(earlier, later)
  const [displaced, fine] = [comparer.displaced_px(noise), comparer.fineLeftOver()]
  const pushedBack = withoutParallax(earlier, later, depth, inside)
  if (!pushedBack) return { displaced, fine, pushed: false }
  comparer.take(earlier, pushedBack)
  return { displaced: least(displaced, comparer.displaced_px(noise)), fine: least(fine, comparer.fineLeftOver()), pushed: true }
}

const least = (a: Plane, b: Plane): Plane => ({ ...a, data: a.data.map((value, i) => Math.min(value, b.data[i])) })

/** For each frame the energy of the finest detail in each cell, and a little around. */
export function detailsOf(planes: Planes, laid: Plane[]): Plane[] {
  const [luma, fine, spare, another, half] = [planes.plane(), planes.plane(), planes.plane(), planes.plane(), planes.plane(1)]
  return laid.map((plane) => {
    planes.put(plane, luma)
    finestBand(planes, luma, fine, spare, another)
    const band = planes.view(fine)
    for (let i = 0; i < band.length; i++) band[i] *= band[i]
    planes.halve(fine, half)
    return smooth(cellMeans(planes.get(half)))
  })
}

/** The most detail that any frame has in each cell. */
export const sharpestOf = (detail: Plane[]): Float32Array =>
  Float32Array.from(detail[0].data, (_, cell) => detail.reduce((high, { data }) => Math.max(high, data[cell]), 0))

/** Depth at each place, in places of the series: of the frame that has most detail, evened out, what has more counting more. */
export function depthOf(detail: Plane[], width: number, height: number): Plane {
  const [{ width: across, height: down }] = detail
  const [depth, weight] = [createPlane(across, down), createPlane(across, down)]
  for (let cell = 0; cell < weight.data.length; cell++) {
    const best = detail.reduce((at, { data }, k) => (data[cell] > detail[at].data[cell] ? k : at), 0)
    weight.data[cell] = detail[best].data[cell]
    depth.data[cell] = best * weight.data[cell]
  }
  const [sum, all] = [smooth(depth), smooth(weight)]
  const out = createPlane(width, height)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const cell = cellAt({ across, down }, x >> 1, y >> 1)
      out.data[i] = sum.data[cell] / (all.data[cell] + 1e-12)
    }
  return out
}

/** How two frames disagree in each cell; found when first asked for. */
export function apartOf(comparer: Comparer, laid: Plane[]): (a: number, b: number) => Float32Array {
  const found = new Map<string, Float32Array>()
  return (a, b) => {
    const [first, second] = [Math.min(a, b), Math.max(a, b)]
    const key = `${first} ${second}`
    if (!found.has(key)) {
      comparer.take(laid[first], laid[second])
      found.set(
        key,
        cellMeans(comparer.fineLeftOver()).data.map((energy) => BORDER_times * energy),
      )
    }
    return found.get(key)!
  }
}
