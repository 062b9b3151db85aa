import type { Similarity } from '../raster'
import type { Level } from './prepare'
import { valueAt } from './select'

/** Light darker than this says more of noise than of exposure; brighter light may be clipped. */
const DARKEST = 0.004
const BRIGHTEST = 0.91
/** sRGB's curve, above its straight part, which is too dark to count here; so many steps of it, as it is asked for often. */
const STEPS = 4096
const ENCODED = Float64Array.from({ length: STEPS + 2 }, (_, k) => 1.055 * (k / STEPS) ** (1 / 2.4) - 0.055)

type Light = Pick<Level, 'width' | 'height' | 'stride' | 'image'>

/**
 * Factor on encoded values that brings `frame` to the exposure of `reference`: the median ratio over the area both
 * see, on planes so coarse that defocus, which spreads light but keeps its sum, hardly matters. `motion` is in pixels of
 * these planes. 1 where they share nothing that is neither black nor white.
 */
export function exposureGain(reference: Light, frame: Light, { scale, rotation_rad, dx_px, dy_px }: Similarity): number {
  const { width, height, stride, image } = reference
  const [a, b] = [scale * Math.cos(rotation_rad), scale * Math.sin(rotation_rad)]
  const [middleX, middleY] = [(width - 1) / 2, (height - 1) / 2]
  const ratios = new Float32Array(width * height)
  let count = 0
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [px, py] = [x - middleX, y - middleY]
      const there = sample(frame, a * px - b * py + dx_px + middleX, b * px + a * py + dy_px + middleY)
      const here = image[y * stride + x]
      if (here > DARKEST && here < BRIGHTEST && there > DARKEST && there < BRIGHTEST) ratios[count++] = encoded(here) / encoded(there)
    }
  }
  return count > 0 ? valueAt(ratios.subarray(0, count), count >> 1) : 1
}

function encoded(light: number): number {
  const at = light * STEPS
  const k = Math.floor(at)
  return ENCODED[k] + (at - k) * (ENCODED[k + 1] - ENCODED[k])
}

/** Bilinear sample; 0 outside. */
function sample({ width, height, stride, image }: Light, x: number, y: number): number {
  const ix = Math.floor(x)
  const iy = Math.floor(y)
  if (ix < 0 || iy < 0 || ix >= width - 1 || iy >= height - 1) return 0
  const i = iy * stride + ix
  const top = image[i] + (x - ix) * (image[i + 1] - image[i])
  const bottom = image[i + stride] + (x - ix) * (image[i + stride + 1] - image[i + stride])
  return top + (y - iy) * (bottom - top)
}

/** Encoded values follow light to the power 1/2.2, near enough to state a gain in stops. */
const ENCODING_GAMMA = 2.2

/** Gain in stops of exposure for a factor on encoded values. */
export function gain_ev(gain: number): number {
  return ENCODING_GAMMA * Math.log2(gain)
}

/** The factor on encoded values for a gain in stops. */
export function gainOf(gain_ev: number): number {
  return 2 ** (gain_ev / ENCODING_GAMMA)
}
