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
