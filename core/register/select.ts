/**
 * The value that stands at `place` when `values` are in order, the smallest first; `values` are moved about (quickselect; Hoare,
 * 1961). Takes time in proportion to their number, where sorting takes several times as long. None of them may be NaN.
 */
export function valueAt(values: Float32Array, place: number): number {
  let [low, high] = [0, values.length - 1]
  while (low < high) {
    // From the middle value of three, which is near the middle of all: it takes few rounds, however they are ordered.
    const pivot = middleOf(values[low], values[(low + high) >> 1], values[high])
    let [up, down] = [low, high]
    while (up <= down) {
      while (values[up] < pivot) up++
      while (values[down] > pivot) down--
      if (up > down) break
      const value = values[up]
      values[up++] = values[down]
      values[down--] = value
    }
    if (place <= down) high = down
    else if (place >= up) low = up
    else return values[place]
  }
  return values[place]
}

function middleOf(a: number, b: number, c: number): number {
  return Math.max(Math.min(a, b), Math.min(Math.max(a, b), c))
}
