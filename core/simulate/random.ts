import { normalShare } from '../statistics'

/** A repeatable stream of numbers in [0, 1) for a seed (a 32-bit mix by multiplication and shifts). */
export function randomStream(seed: number): () => number {
  let state = streamState(seed)
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = Math.imul(state ^ (state >>> 15), state | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

/** Where the stream of a seed begins, as the kernel `develop` wants it. */
export const streamState = (seed: number): number => (seed ^ 0x9e3779b9) >>> 0

/** A normally distributed number, mean 0 and deviation 1, from a stream (Box & Muller, 1958). */
export function gaussian(random: () => number): number {
  return Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random())
}

const QUANTILES = 1 << 16
let normal: Float32Array | undefined

/** 65536 quantiles of the normal distribution, within 4.3 deviations: noise for millions of pixels. */
export function normalQuantiles(): Float32Array {
  return (normal ??= quantiles())
}

/** Values that a normally distributed number stays below with probability (k + ½) / count, each by Newton's method from the one before. */
function quantiles(): Float32Array {
  const values = new Float32Array(QUANTILES)
  let x = -4.5
  for (let k = 0; k < QUANTILES / 2; k++) {
    for (let step = 1; Math.abs(step) > 1e-10; x += step)
      step = ((k + 0.5) / QUANTILES - normalShare(x)) * Math.sqrt(2 * Math.PI) * Math.exp((x * x) / 2)
    values[k] = x
    values[QUANTILES - 1 - k] = -x
  }
  return values
}

/** Factors that keep the lattice's columns, rows and seeds apart. */
const [COLUMN, ROW, SEED] = [374761393, 668265263, 1274126177]

/** A number of 32 bits, its sign included, for a place of the lattice. */
function lattice(place: number): number {
  const h = Math.imul(place ^ (place >>> 13), SEED)
  return h ^ (h >>> 16)
}

/** Smooth lattice noise in the plane, 0 … 1, features about 1 apart. */
export function noise(x: number, y: number, seed: number): number {
  const ix = Math.floor(x)
  const iy = Math.floor(y)
  const fx = x - ix
  const fy = y - iy
  const sx = fx * fx * (3 - 2 * fx)
  const sy = fy * fy * (3 - 2 * fy)
  const left = Math.imul(ix, COLUMN)
  const right = (left + COLUMN) | 0
  const above = Math.imul(iy, ROW)
  const salt = Math.imul(seed, SEED)
  const upper = above ^ salt
  const lower = ((above + ROW) | 0) ^ salt
  const top = (lattice(left ^ upper) >>> 0) * (1 - sx) + (lattice(right ^ upper) >>> 0) * sx
  const bottom = (lattice(left ^ lower) >>> 0) * (1 - sx) + (lattice(right ^ lower) >>> 0) * sx
  return (top * (1 - sy) + bottom * sy) / 4294967296
}

/** Noise summed over `octaves`, each half as large and half as strong as the one before; 0 … 1. */
export function fractalNoise(x: number, y: number, seed: number, octaves: number): number {
  let sum = 0
  let weight = 0.5
  let total = 0
  for (let k = 0; k < octaves; k++) {
    sum += weight * noise(x, y, seed + k)
    total += weight
    weight *= 0.5
    // Turned a little each time, so that the lattices do not line up.
    const along = 1.6 * x - 1.2 * y + 5.3
    y = 1.2 * x + 1.6 * y + 1.7
    x = along
  }
  return sum / total
}
