/** Lower than this a tone is black: 16 stops below white. */
export const BLACK_stops = -16

/** From 0 to 1 without an edge at either end. */
export const smoothstep = (t: number): number => t * t * (3 - 2 * t)

/**
 * What each tone is to be times, by its luminance: a table of so many steps from 0 to 1, by the fourth root, so that the dark stops have steps of
 * their own. Between the rungs the curve rises smoothly and never swings beyond them (monotone cubic, Fritsch & Carlson, 1980); beyond
 * the first and last rung it goes on by as many stops as there.
 */
export function toneGains(points: [from: number, to: number][], steps: number): Float32Array {
  const curve = monotone(points)
  return Float32Array.from({ length: steps + 2 }, (_, k) => {
    const stops = Math.max(BLACK_stops, 4 * Math.log2(Math.max(k, 0.25) / steps))
    return 2 ** (curve(stops) - stops)
  })
}

/** A smooth rising curve through points that rise; with a slope of one beyond them. */
export function monotone(points: [number, number][]): (x: number) => number {
  const sorted = [...points].sort(([a], [b]) => a - b)
  const xs = sorted.map(([x]) => x)
  const ys = sorted.map(([, y]) => y)
  const last = xs.length - 1
  const slopes = xs.slice(0, last).map((x, k) => (ys[k + 1] - ys[k]) / (xs[k + 1] - x))
  const tangents = xs.map((_, k) => {
    if (k === 0 || k === last) return last === 0 ? 1 : slopes[k === 0 ? 0 : last - 1]
    return slopes[k - 1] * slopes[k] <= 0 ? 0 : (slopes[k - 1] + slopes[k]) / 2
  })
  slopes.forEach((slope, k) => {
    if (slope === 0) tangents[k] = tangents[k + 1] = 0
    else {
      const [a, b] = [tangents[k] / slope, tangents[k + 1] / slope]
      const size = Math.hypot(a, b)
      if (size > 3) [tangents[k], tangents[k + 1]] = [(3 * a * slope) / size, (3 * b * slope) / size]
    }
  })
  return (x) => {
    if (x <= xs[0]) return ys[0] + x - xs[0]
    if (x >= xs[last]) return ys[last] + x - xs[last]
    const k = xs.findIndex((_, n) => x < xs[n + 1])
    const width = xs[k + 1] - xs[k]
    const t = (x - xs[k]) / width
    const [t2, t3] = [t * t, t * t * t]
    return (
      (2 * t3 - 3 * t2 + 1) * ys[k] + (t3 - 2 * t2 + t) * width * tangents[k] + (3 * t2 - 2 * t3) * ys[k + 1] + (t3 - t2) * width * tangents[k + 1]
    )
  }
}
