/** For each place the number of the group it belongs to, −1 where its value is negative; groups are counted from 0. */
export interface Components {
  group: Int32Array
  count: number
}

/** Connected places of the same value, 0 or more; `diagonal` says whether corners connect. */
export function componentsOf(values: ArrayLike<number>, width: number, height: number, diagonal: boolean): Components {
  const group = new Int32Array(width * height).fill(-1)
  const stack: number[] = []
  let count = 0
  for (let start = 0; start < group.length; start++) {
    if (values[start] < 0 || group[start] >= 0) continue
    group[start] = count
    stack.push(start)
    while (stack.length > 0) {
      const at = stack.pop()!
      const [x, y] = [at % width, Math.floor(at / width)]
      for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
        for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
          const next = v * width + u
          if (group[next] >= 0 || values[next] !== values[start] || (!diagonal && u !== x && v !== y)) continue
          group[next] = count
          stack.push(next)
        }
    }
    count++
  }
  return { group, count }
}
