import { floats } from './memory'

/**
 * A plane evened out: each place the mean of those up to `radius` around it, weighted by `taps` (how near), by `trust`, and by
 * how alike they are: (1 − (difference / `alike`)²)², nothing from `alike` on (Tukey's biweight). Around both planes lie
 * `radius` rows and columns that are trusted by nothing. `agreement` takes the part of what is trusted around that is alike.
 */
export function even(
  memory: ArrayBuffer,
  plane: number,
  trust: number,
  stride: number,
  width: number,
  radius: number,
  alike: number,
  taps: number,
  target: number,
  agreement: number,
  from: number,
  to: number,
): void {
  // Views begin with what lies before the first place.
  const before = radius * stride + radius
  const [values, trusts] = [plane, trust].map((at) => floats(memory, at - 4 * before))
  const [weights, out, agreed] = [taps, target, agreement].map((at) => floats(memory, at))
  for (let y = from; y < to; y++) {
    for (let x = 0; x < width; x++) {
      const own = values[y * stride + x + before]
      let [sum, total, all] = [0, 0, 0]
      for (let row = 0, tap = 0; row <= 2 * radius; row++) {
        for (let column = 0; column <= 2 * radius; column++, tap++) {
          const there = (y + row) * stride + x + column
          const likeness = Math.max(0, 1 - ((values[there] - own) / alike) ** 2)
          const near = weights[tap] * trusts[there]
          const weight = likeness ** 2 * near
          sum += weight * values[there]
          total += weight
          all += near
        }
      }
      out[y * stride + x] = sum / total
      agreed[y * stride + x] = total / all
    }
  }
}
