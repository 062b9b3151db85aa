import type { Primaries } from './iccProfile'

/** Rows of a 3 × 3 matrix. */
export type Rows = readonly (readonly number[])[]

/** The matrix from red, green and blue to XYZ. */
export function columns(primaries: Primaries): Rows {
  return [0, 1, 2].map((row) => primaries.map((column) => column[row]))
}

export function product(a: Rows, b: Rows): number[][] {
  return [0, 1, 2].map((row) => [0, 1, 2].map((column) => a[row][0] * b[0][column] + a[row][1] * b[1][column] + a[row][2] * b[2][column]))
}

/** What a matrix makes of three numbers. */
export function times(rows: Rows, [x, y, z]: readonly number[]): [number, number, number] {
  const [a, b, c] = rows.map((row) => row[0] * x + row[1] * y + row[2] * z)
  return [a, b, c]
}

/** By cofactors. */
export function inverse([[a, b, c], [d, e, f], [g, h, i]]: Rows): Rows {
  const determinant = a * (e * i - f * h) - b * (d * i - f * g) + c * (d * h - e * g)
  return [
    [e * i - f * h, c * h - b * i, b * f - c * e],
    [f * g - d * i, a * i - c * g, c * d - a * f],
    [d * h - e * g, b * g - a * h, a * e - b * d],
  ].map((row) => row.map((part) => part / determinant))
}
