import { floats } from './memory'

/** `out` = `a` + `share` · (`b` − `a`). */
export function mix(memory: ArrayBuffer, a: number, b: number, share: number, out: number, stride: number, from: number, to: number): void {
  const [first, second, values] = [a, b, out].map((at) => floats(memory, at))
  for (let i = from * stride; i < to * stride; i++) values[i] = first[i] + share * (second[i] - first[i])
}

/** `out` = (`a` − `b` − `light`)². */
export function squareApart(memory: ArrayBuffer, a: number, b: number, light: number, out: number, stride: number, from: number, to: number): void {
  const [first, second, lit, values] = [a, b, light, out].map((at) => floats(memory, at))
  for (let i = from * stride; i < to * stride; i++) values[i] = (first[i] - second[i] - lit[i]) ** 2
}

/** `out` = `a` − `b`. */
export function subtract(memory: ArrayBuffer, a: number, b: number, out: number, stride: number, from: number, to: number): void {
  const [first, second, values] = [a, b, out].map((at) => floats(memory, at))
  for (let i = from * stride; i < to * stride; i++) values[i] = first[i] - second[i]
}

/** `out` = what is less of `source` and `out`. */
export function lesser(memory: ArrayBuffer, source: number, out: number, stride: number, from: number, to: number): void {
  const [first, values] = [source, out].map((at) => floats(memory, at))
  for (let i = from * stride; i < to * stride; i++) if (first[i] < values[i]) values[i] = first[i]
}

/** The square of the gradient, half the difference of the neighbours across and down; nothing at the border. */
export function squaredGradient(
  memory: ArrayBuffer,
  source: number,
  stride: number,
  width: number,
  height: number,
  out: number,
  from: number,
  to: number,
): void {
  const [data, values] = [source, out].map((at) => floats(memory, at))
  for (let y = from; y < to; y++)
    for (let x = 0, i = y * stride; x < width; x++, i++) {
      const inside = x > 0 && y > 0 && x < width - 1 && y < height - 1
      values[i] = inside ? ((data[i + 1] - data[i - 1]) ** 2 + (data[i + stride] - data[i - stride]) ** 2) / 4 : 0
    }
}
