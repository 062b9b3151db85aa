import { solve } from '../../register/solve'
import { mean } from '../../statistics'

/** Of a plane onto a picture: nine numbers row by row, the last one 1. */
export type Homography = Float64Array

export interface Pair {
  /** On the plane. */
  u: number
  s: number
  /** In the picture. */
  x: number
  y: number
}

/** The homography that brings places of a plane nearest to their places in a picture; undefined for fewer than four. Source: Hartley & Zisserman, 4.1. */
export function homographyOf(pairs: Pair[]): Homography | undefined {
  if (pairs.length < 4) return undefined
  // Numbers of one size: places about their middle, in units of how far they spread.
  const [mx, my] = [mean(pairs.map(({ x }) => x)), mean(pairs.map(({ y }) => y))]
  const unit = Math.max(1e-9, ...pairs.map(({ x, y }) => Math.max(Math.abs(x - mx), Math.abs(y - my))))
  const wide = Math.max(1e-9, ...pairs.map(({ u, s }) => Math.max(Math.abs(u), Math.abs(s))))
  const rows = Array.from({ length: 8 }, () => new Float64Array(9))
  for (const pair of pairs) {
    const [u, s, x, y] = [pair.u / wide, pair.s / wide, (pair.x - mx) / unit, (pair.y - my) / unit]
    add(rows, [u, s, 1, 0, 0, 0, -u * x, -s * x], x)
    add(rows, [0, 0, 0, u, s, 1, -u * y, -s * y], y)
  }
  const found = solve(rows)
  if (!found) return undefined
  const [a, b, c, d, e, f, g, h] = found
  // Back to pitches and px.
  const [G, H] = [g / wide, h / wide]
  return Float64Array.of(
    (a * unit) / wide + mx * G,
    (b * unit) / wide + mx * H,
    c * unit + mx,
    (d * unit) / wide + my * G,
    (e * unit) / wide + my * H,
    f * unit + my,
    G,
    H,
    1,
  )
}

export function place([a, b, c, d, e, f, g, h]: Homography, u: number, s: number): [x: number, y: number] {
  const w = g * u + h * s + 1
  return [(a * u + b * s + c) / w, (d * u + e * s + f) / w]
}

/** The place of the plane that is seen at a place of the picture. */
export function placeBehind([a, b, c, d, e, f, g, h]: Homography, x: number, y: number): [u: number, s: number] {
  const [p, q, r, t] = [a - x * g, b - x * h, d - y * g, e - y * h]
  const determinant = p * t - q * r
  return [((x - c) * t - q * (y - f)) / determinant, (p * (y - f) - (x - c) * r) / determinant]
}

/** One equation more for the eight unknowns, as normal equations. */
function add(rows: Float64Array[], factors: number[], value: number): void {
  for (let i = 0; i < 8; i++) {
    for (let k = 0; k < 8; k++) rows[i][k] += factors[i] * factors[k]
    rows[i][8] += factors[i] * value
  }
}
