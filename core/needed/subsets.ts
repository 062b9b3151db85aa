/** Every so-manieth of a series, as indices: as many are left out before the first as after the last, or one more after it. */
export function everyNth(count: number, every: number): number[] {
  const kept = Math.ceil(count / every)
  const before = Math.floor((count - 1 - (kept - 1) * every) / 2)
  return Array.from({ length: kept }, (_, k) => before + k * every)
}

/** So many of a series, as evenly as can be, as indices. */
export function evenly(count: number, kept: number): number[] {
  const step = count / kept
  return Array.from({ length: kept }, (_, k) => Math.floor((k + 0.5) * step))
}
