import { discSums } from '../raster'

/** How raw frames are developed: all of one series alike, whatever each of them would suggest. */
export interface Development {
  /** Factors on the sensor's red, green and blue that make grey grey; the smallest is 1. */
  multipliers: [number, number, number]
  /** How many times brighter than what fills a pixel may be and is still kept: 1 as bright as the camera would show it. */
  headroom: number
}

/** Less of a picture than this may be lost to white: sparks and dead pixels. */
const SPARED = 1e-4
/** Within this of a full pixel nobody knows how much light there was. */
const FULL = 0.99

/** A place of the frame, in parts of its width and height, upright. */
export type NeutralPlace = [across: number, down: number]
/** A grey place is read within so much of the frame's width around it. */
const AROUND = 0.01
/** Where so much of a place fills its pixels its colour is lost; below this light it has none to speak of. */
const MOST_full = 0.01
const DARK = 0.002

/**
 * The factors that make a place grey; the code of why not, where it is too light or too dark to tell its colour.
 * @param samples interleaved red, green, blue of the camera in 16 bits, in proportion to light, without any factor.
 */
export function neutralMultipliers(
  samples: Uint16Array,
  width: number,
  height: number,
  [across, down]: NeutralPlace,
): [number, number, number] | 'raw.neutralLight' | 'raw.neutralDark' {
  const place: NeutralPlace = [across * width - 0.5, down * height - 0.5]
  const { sum, count, full } = discSums({ samples, width, height }, place, Math.max(2, AROUND * width), FULL * 65_535)
  if (full > MOST_full * count) return 'raw.neutralLight'
  if (count === 0 || Math.min(...sum) < DARK * 65_535 * count) return 'raw.neutralDark'
  const most = Math.max(...sum)
  return [most / sum[0], most / sum[1], most / sum[2]]
}

/**
 * The development of a series by one of its frames.
 * @param multipliers as the camera notes them, in any scale.
 * @param brightest of red, green and blue: what all but the last few pixels stay below, 1 a full pixel.
 */
export function developmentFrom(multipliers: readonly number[], brightest: readonly number[]): Development {
  const least = Math.min(...multipliers.slice(0, 3))
  const [red, green, blue] = multipliers.slice(0, 3).map((factor) => factor / least)
  const factors: Development['multipliers'] = [red, green, blue]
  // What fills its pixel is white whatever its colour was; what does not is kept, though a factor takes it beyond white.
  const needed = brightest.map((value, channel) => (value >= FULL ? 1 : value * factors[channel]))
  return { multipliers: factors, headroom: Math.max(1, ...needed) }
}

/** What all but the brightest ten-thousandth of each channel's samples stay below, 0 … 1. `samples` are interleaved red, green, blue of 16 bits. */
export function brightestOf(samples: Uint16Array): [number, number, number] {
  const [red, green, blue] = [0, 1, 2].map((channel) => {
    const histogram = new Uint32Array(65_536)
    for (let i = channel; i < samples.length; i += 3) histogram[samples[i]]++
    let above = (samples.length / 3) * SPARED
    let value = 65_535
    while (value > 0 && (above -= histogram[value]) >= 0) value--
    return value / 65_535
  })
  return [red, green, blue]
}
