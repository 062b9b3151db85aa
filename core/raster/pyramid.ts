import { createPlane, type Plane } from './plane'

/**
 * Half the size, smoothed with the 5-tap binomial kernel 1 4 6 4 1 (Burt & Adelson, 1983), edges mirrored.
 * Sizes round up.
 */
export function reduce(plane: Plane): Plane {
  const { width, height, data } = plane
  const outWidth = (width + 1) >> 1
  const outHeight = (height + 1) >> 1
  const rows = new Float32Array(outWidth * height)
  for (let y = 0; y < height; y++) {
    const from = y * width
    const to = y * outWidth
    for (let x = 0; x < outWidth; x++) {
      const c = 2 * x
      if (c >= 2 && c < width - 2) {
        const i = from + c
        rows[to + x] = (data[i - 2] + data[i + 2] + 4 * (data[i - 1] + data[i + 1]) + 6 * data[i]) * 0.0625
      } else {
        const at = (k: number) => data[from + mirror(c + k, width)]
        rows[to + x] = (at(-2) + at(2) + 4 * (at(-1) + at(1)) + 6 * at(0)) * 0.0625
      }
    }
  }
  const out = createPlane(outWidth, outHeight)
  for (let y = 0; y < outHeight; y++) {
    const r = [-2, -1, 0, 1, 2].map((k) => mirror(2 * y + k, height) * outWidth)
    const to = y * outWidth
    for (let x = 0; x < outWidth; x++) {
      out.data[to + x] = (rows[r[0] + x] + rows[r[4] + x] + 4 * (rows[r[1] + x] + rows[r[3] + x]) + 6 * rows[r[2] + x]) * 0.0625
    }
  }
  return out
}

/** The inverse step: to `width` × `height`, interpolated with the same kernel. */
export function expand(plane: Plane, width: number, height: number): Plane {
  const { width: inWidth, height: inHeight, data } = plane
  const rows = new Float32Array(width * inHeight)
  for (let y = 0; y < inHeight; y++) {
    const from = y * inWidth
    const to = y * width
    for (let x = 0; x < width; x++) {
      const i = x >> 1
      const right = Math.min(i + 1, inWidth - 1)
      if (x & 1) rows[to + x] = 0.5 * (data[from + i] + data[from + right])
      else rows[to + x] = 0.125 * (data[from + Math.max(i - 1, 0)] + data[from + right]) + 0.75 * data[from + i]
    }
  }
  const out = createPlane(width, height)
  for (let y = 0; y < height; y++) {
    const j = y >> 1
    const here = j * width
    const below = Math.min(j + 1, inHeight - 1) * width
    const above = Math.max(j - 1, 0) * width
    const to = y * width
    if (y & 1) for (let x = 0; x < width; x++) out.data[to + x] = 0.5 * (rows[here + x] + rows[below + x])
    else for (let x = 0; x < width; x++) out.data[to + x] = 0.125 * (rows[above + x] + rows[below + x]) + 0.75 * rows[here + x]
  }
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

function mirror(index: number, size: number): number {
  if (size === 1) return 0
  const folded = index < 0 ? -index : index >= size ? 2 * size - 2 - index : index
  return Math.min(Math.max(folded, 0), size - 1)
}
