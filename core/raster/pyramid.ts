import { EXPAND, expandColumns, expandRows, reduceColumns, reduceRows } from './kernels/twin'
import { createPlane, type Plane } from './plane'

/**
 * Half the size, smoothed with the 5-tap binomial kernel 1 4 6 4 1 (Burt & Adelson, 1983), edges mirrored.
 * Sizes round up.
 */
export function reduce(plane: Plane): Plane {
  const { width, height, data } = plane
  const out = createPlane((width + 1) >> 1, (height + 1) >> 1)
  const rows = new Float32Array(out.width * height)
  reduceRows(data, width, rows, 0, height)
  reduceColumns(rows, out.width, height, out.data, 0, out.height)
  return out
}

/** The inverse step: to `width` × `height`, interpolated with the same kernel. */
export function expand(plane: Plane, width: number, height: number): Plane {
  const rows = new Float32Array(width * plane.height)
  const out = createPlane(width, height)
  expandRows(plane.data, plane.width, rows, width, 0, plane.height)
  expandColumns(rows, plane.height, out.data, out.data, width, EXPAND.write, 1, 0, height)
  return out
}

/** Gaussian pyramid: the plane itself first, then `levels` halvings. */
export function gaussianPyramid(plane: Plane, levels: number): Plane[] {
  const pyramid = [plane]
  for (let level = 0; level < levels; level++) pyramid.push(reduce(pyramid[level]))
  return pyramid
}

/** Laplacian pyramid (Burt & Adelson, 1983): `levels` band-pass planes, then the coarse rest. */
export function laplacianPyramid(plane: Plane, levels: number): Plane[] {
  const gaussian = gaussianPyramid(plane, levels)
  return gaussian.map((fine, level) => {
    if (level === levels) return fine
    const band = expand(gaussian[level + 1], fine.width, fine.height)
    for (let i = 0; i < band.data.length; i++) band.data[i] = fine.data[i] - band.data[i]
    return band
  })
}

/** The plane whose Laplacian pyramid this is. */
export function collapse(pyramid: Plane[]): Plane {
  return pyramid.reduceRight((coarse, band) => {
    const out = expand(coarse, band.width, band.height)
    for (let i = 0; i < out.data.length; i++) out.data[i] += band.data[i]
    return out
  })
}
