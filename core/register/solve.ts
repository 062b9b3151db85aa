/**
 * Solves a small linear system by Gaussian elimination with partial pivoting. `rows` is n × (n + 1), the right side
 * last; it is overwritten. Returns undefined where the system is singular.
 */
export function solve(rows: Float64Array[]): Float64Array | undefined {
  const n = rows.length
  for (let k = 0; k < n; k++) {
    let pivot = k
    for (let r = k + 1; r < n; r++) if (Math.abs(rows[r][k]) > Math.abs(rows[pivot][k])) pivot = r
    if (!(Math.abs(rows[pivot][k]) > 1e-14)) return undefined
    ;[rows[k], rows[pivot]] = [rows[pivot], rows[k]]
    for (let r = 0; r < n; r++) {
      if (r === k) continue
      const factor = rows[r][k] / rows[k][k]
      for (let c = k; c <= n; c++) rows[r][c] -= factor * rows[k][c]
    }
  }
  return Float64Array.from(rows, (row, k) => row[n] / row[k])
}
