import { blurred, createPlane, type Plane } from '../raster'

const BINS = 16
/** The quietest tenth at each brightness has nothing but noise. */
const QUIET = 0.1
/** What is left of white noise's variance beside a Gaussian of σ = 1. */
const LEFT = 0.72
/** Every so many-th place along both sides tells enough. */
const STEP = 3
const LEAST_PLACES = 200

/** Variance of the noise by brightness, 0 … 1: bright places have more photons and, encoded, less noise. */
export type NoiseCurve = Float32Array

export function noiseCurve(lumas: Iterable<Plane>): NoiseCurve {
  const bins: number[][] = Array.from({ length: BINS }, () => [])
  for (const luma of lumas) {
    const fine = createPlane(luma.width, luma.height)
    const soft = blurred(luma, 1)
    for (let i = 0; i < fine.data.length; i++) fine.data[i] = (luma.data[i] - soft.data[i]) ** 2
    const [variance, brightness] = [blurred(fine, 3), blurred(luma, 3)]
    for (let y = 0; y < luma.height; y += STEP)
      for (let x = 0, i = y * luma.width; x < luma.width; x += STEP, i += STEP)
        bins[Math.min(BINS - 1, Math.max(0, Math.floor(brightness.data[i] * BINS)))].push(variance.data[i])
  }
  const told = bins.map((values) =>
    values.length < LEAST_PLACES ? undefined : values.sort((a, b) => a - b)[Math.floor(QUIET * values.length)] / LEFT,
  )
  return Float32Array.from(told, (value, bin) => value ?? nearestTold(told, bin))
}

/** At a brightness that is too rare to tell, noise is that of the nearest one that does. */
function nearestTold(told: (number | undefined)[], bin: number): number {
  for (let away = 1; away < BINS; away++) {
    const found = told[bin - away] ?? told[bin + away]
    if (found !== undefined) return found
  }
  return 0
}

export function noiseAt(curve: NoiseCurve, brightness: number): number {
  const place = Math.min(BINS - 1, Math.max(0, brightness * BINS - 0.5))
  const bin = Math.min(BINS - 2, Math.floor(place))
  return curve[bin] + (place - bin) * (curve[bin + 1] - curve[bin])
}
