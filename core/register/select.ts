import quickselect from 'quickselect'

/**
 * The value that stands at `place` when `values` are in order, the smallest first; `values` are moved about. Takes time in
 * proportion to their number, where sorting takes several times as long. None of them may be NaN.
 */
export function valueAt(values: Float32Array, place: number): number {
  // Only indices are used, which lists and typed arrays have alike.
  quickselect(values as unknown as number[], place)
  return values[place]
}
