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
