import type { Similarity } from '../raster'

/** How a frame lies beside what its neighbours lead one to expect. */
export interface TrendPoint {
  /** Shift against the reference, in px. */
  dx_px: number
  dy_px: number
  /** Change of scale against the reference, in percent: breathing, or travel. */
  scale_percent: number
  /** It lies off the trend that the others keep: something moved, or it was registered poorly. */
  outlier: boolean
}

/** Deviations from the trend, in usual ones, and in px at the least, from which a frame stands out. */
const TIMES = 6
const LEAST_px = 0.6

/**
 * The motions of a series as a trend, with what stands out of it: each frame beside the line between the frames around it
 * (the median of the deviations tells what is usual; Rousseeuw & Croux, 1993). `half_px` is half the picture's width, at
 * which a change of scale is felt.
 */
export function motionTrend(motions: Pick<Similarity, 'scale' | 'dx_px' | 'dy_px'>[], half_px: number): TrendPoint[] {
  const away = motions.map(({ scale, dx_px, dy_px }, k) => {
    const [before, after] = [motions[k - 1], motions[k + 1]]
    if (!before || !after) return 0
    const off = (of: (m: (typeof motions)[number]) => number, here: number) => here - (of(before) + of(after)) / 2
    return Math.hypot(
      off((m) => m.dx_px, dx_px),
      off((m) => m.dy_px, dy_px),
      off((m) => m.scale, scale) * half_px,
    )
  })
  const inner = away.slice(1, -1).sort((a, b) => a - b)
  const usual = inner[inner.length >> 1] ?? 0
  return motions.map(({ scale, dx_px, dy_px }, k) => {
    // A bump shows in two frames, the last before it and the first after it; the larger deviation is the one that moved.
    const neighbours = Math.max(away[k - 1] ?? 0, away[k + 1] ?? 0)
    const outlier = away[k] > Math.max(TIMES * usual, LEAST_px) && away[k] >= 0.75 * neighbours
    return { dx_px, dy_px, scale_percent: 100 * (scale - 1), outlier }
  })
}
