import { columns, inverse, product, SRGB_PRIMARIES, WIDE_PRIMARIES, type Rows } from '../formats'
import { encoded } from '../raster'

/**
 * Brings balanced light of a camera to encoded samples of the wide space, in place.
 * @param samples interleaved red, green, blue of the camera in 16 bits, proportional to light.
 * @param srgbFromCamera rows of the matrix to linear sRGB.
 * @param gain factor on the light; what comes to lie beyond white becomes white.
 */
export function toWide(samples: Uint16Array, srgbFromCamera: Rows, gain: number): void {
  const [[rr, rg, rb], [gr, gg, gb], [br, bg, bb]] = product(WIDE_FROM_SRGB, srgbFromCamera).map((row) => row.map((part) => part * gain))
  const codes = encoding()
  for (let i = 0; i < samples.length; i += 3) {
    const red = samples[i]
    const green = samples[i + 1]
    const blue = samples[i + 2]
    samples[i] = codes[held(rr * red + rg * green + rb * blue)]
    samples[i + 1] = codes[held(gr * red + gg * green + gb * blue)]
    samples[i + 2] = codes[held(br * red + bg * green + bb * blue)]
  }
}

const held = (value: number) => (value <= 0 ? 0 : value >= 65_535 ? 65_535 : (value + 0.5) | 0)

let codes: Uint16Array | undefined

/** The curve of sRGB (IEC 61966-2-1) for every 16-bit amount of light. */
function encoding(): Uint16Array {
  codes ??= Uint16Array.from({ length: 65_536 }, (_, k) => {
    const light = k / 65_535
    return Math.round(65_535 * encoded(light))
  })
  return codes
}

/** Both are adapted to D50 alike, so that white stays white. */
const WIDE_FROM_SRGB = product(inverse(columns(WIDE_PRIMARIES)), columns(SRGB_PRIMARIES))
