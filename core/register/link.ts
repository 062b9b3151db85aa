import type { PairMotion } from './pair'

/** A measured motion between two frames of a series, by their places in it. */
export interface Link {
  from: number
  to: number
  pair: PairMotion
}

/** How much a link counts. */
export function weightOf({ from, to, pair }: Link): number {
  return 1 / (1.0001 - Math.min(Math.max(pair.correlation, 0), 1)) / (to - from)
}
