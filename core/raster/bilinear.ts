import type { Plane } from './plane'

/** A plane's value between its places; beyond the last place it is repeated. */
export function bilinear({ width, height, data }: Plane, x: number, y: number): number {
  const [u, v] = [Math.min(width - 1, Math.max(0, x)), Math.min(height - 1, Math.max(0, y))]
  const [x0, y0] = [Math.floor(u), Math.floor(v)]
  const [x1, y1] = [Math.min(x0 + 1, width - 1), Math.min(y0 + 1, height - 1)]
  const above = data[y0 * width + x0] + (u - x0) * (data[y0 * width + x1] - data[y0 * width + x0])
  const below = data[y1 * width + x0] + (u - x0) * (data[y1 * width + x1] - data[y1 * width + x0])
  return above + (v - y0) * (below - above)
}
