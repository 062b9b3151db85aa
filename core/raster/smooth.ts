import { createPlane, type Plane } from './plane'

/** Binomial smoothing 1 4 6 4 1 in both directions (a Gaussian of σ = 1 px), edges repeated. */
export function smooth(plane: Plane): Plane {
  const { width, height, data } = plane
  const rows = new Float32Array(width * height)
  for (let y = 0; y < height; y++) {
    const o = y * width
    for (let x = 0; x < width; x++) {
      const a = Math.max(x - 2, 0)
      const b = Math.max(x - 1, 0)
      const d = Math.min(x + 1, width - 1)
      const e = Math.min(x + 2, width - 1)
      rows[o + x] = (data[o + a] + data[o + e] + 4 * (data[o + b] + data[o + d]) + 6 * data[o + x]) * 0.0625
    }
  }
  const out = createPlane(width, height)
  for (let y = 0; y < height; y++) {
    const a = Math.max(y - 2, 0) * width
    const b = Math.max(y - 1, 0) * width
    const c = y * width
    const d = Math.min(y + 1, height - 1) * width
    const e = Math.min(y + 2, height - 1) * width
    for (let x = 0; x < width; x++) out.data[c + x] = (rows[a + x] + rows[e + x] + 4 * (rows[b + x] + rows[d + x]) + 6 * rows[c + x]) * 0.0625
  }
  return out
}
