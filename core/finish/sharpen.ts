import { Workspace, type Kernels } from '../raster/kernels'
import type { Canvas } from './canvas'
import type { StepOf } from './recipe'

/**
 * Sharpens the luminance: what lies off its blurred self by more than the threshold is raised. It works on samples, whose steps look even
 * to the eye, and adds the same to red, green and blue, so that colours stay. Where the confidence says that nothing is sharp, nothing is
 * done. In place.
 */
export function sharpen({ samples, width, height, space, confidence }: Canvas, step: StepOf<'sharpen'>, kernels: Kernels): void {
  const memory = new Workspace(kernels, width)
  const [plain, soft] = [memory.plane(width, height), memory.plane(width, height)]
  const at = memory.bytes(samples.byteLength)
  const taps = gaussian(step.radius_px)
  const tapsAt = memory.bytes(taps.byteLength)
  const sure = confidence ? memory.bytes(confidence.data.byteLength) : 0
  const whole = new Uint16Array(kernels.buffer(), at, samples.length)
  whole.set(samples)
  new Float32Array(kernels.buffer(), tapsAt, taps.length).set(taps)
  if (confidence) new Uint16Array(kernels.buffer(), sure, confidence.data.length).set(confidence.data)
  kernels.run('luminance', [at, width, ...space.luminance, plain.at, plain.stride], height)
  // Along the rows into one plane, down the columns back over the first; then the luminance once more, as it was.
  kernels.run('softenAlong', [plain.at, soft.at, plain.stride, width, tapsAt, taps.length], height)
  kernels.run('softenDown', [soft.at, plain.at, plain.stride, height, tapsAt, taps.length], height)
  kernels.run('luminance', [at, width, ...space.luminance, soft.at, soft.stride], height)
  kernels.run('sharpenRows', [at, width, soft.at, plain.at, plain.stride, step.amount, step.threshold, sure], height)
  samples.set(whole)
}

/** A Gaussian's weights, all of them together 1. */
function gaussian(sigma: number): Float32Array {
  const reach = Math.max(1, Math.ceil(3 * sigma))
  const weights = Array.from({ length: 2 * reach + 1 }, (_, k) => Math.exp(-((k - reach) ** 2) / (2 * sigma * sigma)))
  const sum = weights.reduce((all, weight) => all + weight, 0)
  return Float32Array.from(weights, (weight) => weight / sum)
}
