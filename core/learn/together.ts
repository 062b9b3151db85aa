import { deviation, mean } from '../statistics'

/** What several runs tell of one length. */
export interface Together {
  /** The mean; the longest where they do not agree: with it no gap is left. */
  value: number
  /** By how much a single stride differs, as a part of it: within runs and between them. Undefined where no run tells. */
  spread?: number
  /** Where they do not agree nothing is averaged. */
  conflict?: { least: number; most: number }
}

/** Standard deviation of values as a part of their mean. */
export const spreadOf = (values: number[]): number => deviation(values) / mean(values)

/** Values that runs tell, put together. `agree` is the part that they may differ by. */
export function together(values: number[], runs: { stride_mm: number; spread_mm?: number }[], agree: number): Together {
  const [least, most] = [Math.min(...values), Math.max(...values)]
  const agreed = most / least - 1 <= agree
  const within = runs.flatMap(({ spread_mm, stride_mm }) => (spread_mm === undefined ? [] : [(spread_mm / stride_mm) ** 2]))
  return {
    value: agreed ? mean(values) : most,
    ...(within.length > 0 && { spread: Math.sqrt(mean(within) + (agreed ? spreadOf(values) ** 2 : 0)) }),
    ...(!agreed && { conflict: { least, most } }),
  }
}
