import { profileLight, SRGB_PROFILE, type Primaries } from '../formats'
import { DARKEST_exponent, PIECES_bits } from '../raster/kernels'

/** How the samples of a picture stand for light. */
export interface Space {
  /** Light of each 16-bit sample, 0 … 1. */
  light: Float32Array
  /**
   * Samples by light, in pieces that are the finer, the darker: the first bits of a floating-point number say which one it lies in, the
   * others how far along. So no root and no logarithm is needed for each.
   */
  samples: Float32Array
  /** What red, green and blue add to luminance; together 1. */
  luminance: [red: number, green: number, blue: number]
  /** What red, green and blue amount to in XYZ, adapted to D50. */
  primaries: Primaries
}

const SHIFT = 23 - PIECES_bits
const FIRST = DARKEST_exponent << PIECES_bits
const COUNT = (127 - DARKEST_exponent) << PIECES_bits

/** The space of a profile; that of sRGB where there is none, or where it is made of tables. */
export function spaceOf(profile?: Uint8Array): Space {
  const { curve, luminance, primaries } = (profile && profileLight(profile, 65536)) ?? profileLight(SRGB_PROFILE, 65536)!
  const samples = new Float32Array(COUNT + 1)
  // The curve rises: the sample of each piece lies at or above that of the piece before.
  for (let piece = 0, sample = 0; piece <= COUNT; piece++) {
    const light = lightOfPiece(piece)
    while (sample < 65535 && curve[sample + 1] <= light) sample++
    const [low, high] = [curve[sample], curve[Math.min(65535, sample + 1)]]
    samples[piece] = sample + (high > low ? Math.min(1, Math.max(0, (light - low) / (high - low))) : 0)
  }
  return { light: Float32Array.from(curve), samples, luminance, primaries }
}

/** The light at which a piece of the table begins: numbers whose last bits are 0. */
function lightOfPiece(piece: number): number {
  const bits = (FIRST + piece) << SHIFT
  return new Float32Array(new Uint32Array([bits]).buffer)[0]
}

/**
 * A row of light as samples; what is lighter than white becomes white. The first bits of a floating-point number say which piece of the table
 * it lies in, the others how far along: as the kernel `finishRows` does it.
 */
export function fromLight(space: Space, row: Float32Array, samples: Uint16Array, to: number): void {
  const table = space.samples
  const bits = new Int32Array(row.buffer, row.byteOffset, row.length)
  for (let i = 0; i < row.length; i++) {
    if (row[i] >= 1) samples[to + i] = 65535
    else {
      const piece = (bits[i] >> SHIFT) - FIRST
      // Negative light as well.
      if (piece < 0) samples[to + i] = 0
      else samples[to + i] = table[piece] + (bits[i] & ((1 << SHIFT) - 1)) * (1 / (1 << SHIFT)) * (table[piece + 1] - table[piece]) + 0.5
    }
  }
}
