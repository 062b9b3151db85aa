/** Light lost to extension, in stops: 2 log2(1 + m/P) (Allen & Triantaphillidou). */
export function extensionLoss_stops(magnification: number, pupilRatio = 1): number {
  return 2 * Math.log2(1 + magnification / pupilRatio)
}

/** Exposure time behind a neutral-density filter of `stops` stops, in s: t · 2^k. */
export function filteredExposure_s(exposure_s: number, stops: number): number {
  return exposure_s * 2 ** stops
}

/** Marked f-numbers in third stops from `widest` to `narrowest`, rounded as lens rings mark them. */
export function thirdStops(widest = 1, narrowest = 32): number[] {
  const marked = [
    1, 1.1, 1.2, 1.4, 1.6, 1.8, 2, 2.2, 2.5, 2.8, 3.2, 3.5, 4, 4.5, 5, 5.6, 6.3, 7.1, 8, 9, 10, 11, 13, 14, 16, 18, 20, 22, 25, 29, 32, 36, 40, 45,
  ]
  return marked.filter((n) => n >= widest && n <= narrowest)
}
