import { profileLight, SRGB_PROFILE } from '../formats'

/** How the samples of a picture stand for light. */
export interface Space {
  /** Light of each 16-bit sample, 0 … 1. */
  light: Float32Array
  /** Samples by the square root of light, at even steps: even enough for one straight line from each to the next. */
  samples: Float32Array
  /** What red, green and blue add to luminance; together 1. */
  luminance: [red: number, green: number, blue: number]
}

const STEPS = 32768

/** The space of a profile; that of sRGB where there is none, or where it is made of tables. */
export function spaceOf(profile?: Uint8Array): Space {
  const { curve, luminance } = (profile && profileLight(profile, 65536)) ?? profileLight(SRGB_PROFILE, 65536)!
  const samples = new Float32Array(STEPS + 2)
  // The curve rises: the sample of each step lies at or above that of the step before.
  for (let step = 0, sample = 0; step <= STEPS; step++) {
    const light = (step / STEPS) ** 2
    while (sample < 65535 && curve[sample + 1] <= light) sample++
    const [low, high] = [curve[sample], curve[Math.min(65535, sample + 1)]]
    samples[step] = sample + (high > low ? Math.min(1, Math.max(0, (light - low) / (high - low))) : 0)
  }
  samples[STEPS + 1] = samples[STEPS]
  return { light: Float32Array.from(curve), samples, luminance }
}

/** The light of a row of samples. */
export function toLight(space: Space, samples: Uint16Array, from: number, row: Float32Array): void {
  const { light } = space
  for (let i = 0; i < row.length; i++) row[i] = light[samples[from + i]]
}

/** A row of light as samples; what is lighter than white becomes white. */
export function fromLight(space: Space, row: Float32Array, samples: Uint16Array, to: number): void {
  const table = space.samples
  for (let i = 0; i < row.length; i++) {
    const light = row[i]
    if (light >= 1) samples[to + i] = 65535
    else if (light > 0) {
      const place = Math.sqrt(light) * STEPS
      const step = place | 0
      samples[to + i] = table[step] + (place - step) * (table[step + 1] - table[step]) + 0.5
    } else samples[to + i] = 0
  }
}
