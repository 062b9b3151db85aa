import type { Canvas } from './canvas'
import type { StepOf } from './recipe'

/**
 * Sharpens the luminance: what lies off its blurred self by more than the threshold is raised. It works on samples, whose steps look even
 * to the eye, and adds the same to red, green and blue, so that colours stay. Where the confidence says that nothing is sharp, nothing is
 * done. In place; of the rows below only what they were is looked at.
 */
export function sharpen({ samples, width, height, space, confidence }: Canvas, { radius_px, amount, threshold }: StepOf<'sharpen'>): void {
  const weights = gaussian(radius_px)
  const reach = weights.length - 1
  const [r, g, b] = space.luminance
  const count = 2 * reach + 1
  /** Rows of luminance, and the same blurred along the row, each at its number modulo how many are wanted at once. */
  const plain = Array.from({ length: count }, () => new Float32Array(width))
  const blurred = Array.from({ length: count }, () => new Float32Array(width))
  const padded = new Float32Array(width + 2 * reach)
  const take = (y: number) => {
    const row = plain[y % count]
    for (let x = 0, i = 3 * y * width; x < width; x++, i += 3) row[x] = (r * samples[i] + g * samples[i + 1] + b * samples[i + 2]) / 65535
    padded.set(row, reach)
    padded.fill(row[0], 0, reach)
    padded.fill(row[width - 1], width + reach)
    const out = blurred[y % count]
    for (let x = 0; x < width; x++) {
      let sum = weights[0] * padded[x + reach]
      for (let k = 1; k <= reach; k++) sum += weights[k] * (padded[x + reach - k] + padded[x + reach + k])
      out[x] = sum
    }
  }
  const inside = (y: number) => Math.min(height - 1, Math.max(0, y))
  for (let y = 0; y < Math.min(reach, height); y++) take(y)
  const smooth = new Float32Array(width)
  for (let y = 0; y < height; y++) {
    if (y + reach < height) take(y + reach)
    smooth.fill(0)
    for (let k = -reach; k <= reach; k++) {
      const row = blurred[inside(y + k) % count]
      const weight = weights[Math.abs(k)]
      for (let x = 0; x < width; x++) smooth[x] += weight * row[x]
    }
    const row = plain[y % count]
    for (let x = 0, i = 3 * y * width; x < width; x++, i += 3) {
      const off = row[x] - smooth[x]
      const beyond = Math.abs(off) - threshold
      if (beyond <= 0) continue
      const sure = confidence ? confidence.data[y * width + x] / 65535 : 1
      const add = 65535 * amount * sure * (off > 0 ? beyond : -beyond) + 0.5
      for (let c = i; c < i + 3; c++) samples[c] = Math.min(65535, Math.max(0, samples[c] + add))
    }
  }
}

/** Half of a Gaussian's weights from its middle on, all of them together 1. */
function gaussian(sigma: number): Float64Array {
  const reach = Math.max(1, Math.ceil(3 * sigma))
  const half = Float64Array.from({ length: reach + 1 }, (_, k) => Math.exp((-k * k) / (2 * sigma * sigma)))
  const sum = half.reduce((all, weight, k) => all + (k === 0 ? 1 : 2) * weight, 0)
  return half.map((weight) => weight / sum)
}
