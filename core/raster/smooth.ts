import { smoothColumns, smoothRows } from './kernels/twin'
import { createPlane, type Plane } from './plane'

/** Binomial smoothing 1 4 6 4 1 in both directions (a Gaussian of σ = 1 px), edges repeated. */
export function smooth({ width, height, data }: Plane): Plane {
  const rows = new Float32Array(width * height)
  const out = createPlane(width, height)
  smoothRows(data, width, rows, 0, height)
  smoothColumns(rows, width, height, out.data, 0, height)
  return out
}
