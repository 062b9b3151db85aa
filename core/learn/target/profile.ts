import { bilinear, type Plane } from '../../raster'
import { place, type Homography } from './homography'
import { BARS_u, inkUntil } from './sheet'

/** Waves of the bars that are looked at, in cycles to a pitch. */
export const WAVES: readonly number[] = Array.from({ length: 34 }, (_, k) => 0.3 + 0.1 * k)
/** Places along a line across the bars, to a pitch. */
const SAMPLES = 31
/** A line reaches so far to each side: what lies a little beyond the bars is white. */
const REACH_u = BARS_u + 0.4
/** Parts of a line at both sides and in its middle, all of one width: how the focus lies at each tells how curved it is. */
const SIDE_u = 6
const PART_u = REACH_u - SIDE_u

/** Bars finer than the one are lost to blur, coarser than the other they hardly tell it, in pitches. */
const TELLING_u = { least: 0.3, most: 2 }

/**
 * How far out the bars of a part lie that tell its focus: the mean square of their way from the middle of the sheet, in pitches, each weighed by
 * what its edges add to the waves (a wave's strength is the sum over the window of the bars by the wave that they themselves make). Bars are of all widths, and stand nowhere evenly.
 */
export function meanSquareOf(stretch: Stretch): number {
  const { middle, reach } = STRETCHES[stretch]
  const ink = (u: number, over: number) => (inkUntil(u + over / 2) - inkUntil(u - over / 2)) / over
  let [sum, all] = [0, 0]
  for (let u = middle - reach; u < middle + reach; u += 1 / SAMPLES) {
    const window = 1 + Math.cos((Math.PI * (u - middle)) / reach)
    const weight = window * (ink(u, TELLING_u.least) - ink(u, TELLING_u.most)) ** 2
    sum += weight * u * u
    all += weight
  }
  return sum / all
}

/** How strongly each wave shows in one line across the bars, with its phase; relative to how light the line is. */
export interface LineWaves {
  real: Float64Array
  imaginary: Float64Array
}

/** Which part of a line is looked at. */
export const STRETCHES = {
  all: { middle: 0, reach: REACH_u },
  left: { middle: -SIDE_u, reach: PART_u },
  middle: { middle: 0, reach: PART_u },
  right: { middle: SIDE_u, reach: PART_u },
} as const
export type Stretch = keyof typeof STRETCHES
interface Table {
  u: Float64Array
  cosine: Float64Array[]
  sine: Float64Array[]
}

/** Made when first asked for: every start of the command would wait for them. */
const tables: Partial<Record<Stretch, Table>> = {}
const tableOf = (stretch: Stretch): Table => (tables[stretch] ??= makeTable(STRETCHES[stretch]))

/** A line that bends towards its ends to nothing: waves do not leak into one another (Hann). */
function makeTable({ middle, reach }: { middle: number; reach: number }): Table {
  const samples = Math.round(2 * reach * SAMPLES)
  const u = Float64Array.from({ length: samples }, (_, k) => middle + reach * ((2 * (k + 0.5)) / samples - 1))
  const window = u.map((at) => (1 + Math.cos((Math.PI * (at - middle)) / reach)) / samples)
  const by = (wave: (angle: number) => number) => WAVES.map((cycles) => u.map((at, k) => window[k] * wave(2 * Math.PI * cycles * at)))
  return { u, cosine: by(Math.cos), sine: by((angle) => -Math.sin(angle)) }
}

/**
 * The waves of a line across the bars, as a frame in linear light shows it. The line leans by `lean` pitches along the slant for each across.
 * Undefined where it leaves the picture.
 */
export function wavesOf(light: Plane, homography: Homography, s: number, lean: number, stretch: Stretch = 'all'): LineWaves | undefined {
  const { u, cosine, sine } = tableOf(stretch)
  const samples = new Float64Array(u.length)
  let sum = 0
  for (let k = 0; k < u.length; k++) {
    const [x, y] = place(homography, u[k], s + lean * u[k])
    if (!(x >= 0 && y >= 0 && x <= light.width - 1 && y <= light.height - 1)) return undefined
    samples[k] = bilinear(light, x, y)
    sum += samples[k]
  }
  const mean = sum / u.length
  if (!(mean > 0)) return undefined
  const real = new Float64Array(WAVES.length)
  const imaginary = new Float64Array(WAVES.length)
  for (let w = 0; w < WAVES.length; w++) {
    let [re, im] = [0, 0]
    for (let k = 0; k < u.length; k++) {
      const value = samples[k] / mean - 1
      re += value * cosine[w][k]
      im += value * sine[w][k]
    }
    real[w] = re
    imaginary[w] = im
  }
  return { real, imaginary }
}
