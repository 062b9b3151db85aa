/** Share of a normal distribution below x (Abramowitz & Stegun 26.2.17, error below 1e-7). */
export function normalShare(x: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(x))
  const series = t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))))
  const tail = (Math.exp((-x * x) / 2) / Math.sqrt(2 * Math.PI)) * series
  return x >= 0 ? 1 - tail : tail
}

export const mean = (values: number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length

/** The standard deviation of a sample; 0 where there is but one value. */
export function deviation(values: number[]): number {
  if (values.length < 2) return 0
  const middle = mean(values)
  return Math.sqrt(values.reduce((sum, value) => sum + (value - middle) ** 2, 0) / (values.length - 1))
}

/** The value that such a part of all lies below; 0 where there is none. */
export function quantile(values: number[], part: number): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.floor(part * sorted.length))] ?? 0
}

export const median = (values: number[]): number => quantile(values, 0.5)
