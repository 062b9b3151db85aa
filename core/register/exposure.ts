import { apply, type Plane, type Similarity } from '../raster'

/** Samples darker than this say more of noise than of exposure; brighter ones may be clipped. */
const DARKEST = 0.04
const BRIGHTEST = 0.96

/**
 * Factor on encoded values that brings `frame` to the exposure of `reference`: the median ratio over the area both
 * see, on planes so coarse that defocus, which spreads light but keeps its sum, hardly matters. `motion` is in
 * pixels of these planes. 1 where they share nothing that is neither black nor white.
 */
export function exposureGain(reference: Plane, frame: Plane, motion: Similarity): number {
  const { width, height } = reference
  const ratios: number[] = []
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [qx, qy] = apply(motion, x - (width - 1) / 2, y - (height - 1) / 2)
      const there = sample(frame, qx + (width - 1) / 2, qy + (height - 1) / 2)
      const here = reference.data[y * width + x]
      if (here > DARKEST && here < BRIGHTEST && there > DARKEST && there < BRIGHTEST) ratios.push(here / there)
    }
  }
  if (ratios.length === 0) return 1
  ratios.sort((a, b) => a - b)
  return ratios[ratios.length >> 1]
}

/** Bilinear sample; 0 outside. */
function sample({ width, height, data }: Plane, x: number, y: number): number {
  const ix = Math.floor(x)
  const iy = Math.floor(y)
  if (ix < 0 || iy < 0 || ix >= width - 1 || iy >= height - 1) return 0
  const i = iy * width + ix
  const top = data[i] + (x - ix) * (data[i + 1] - data[i])
  const bottom = data[i + width] + (x - ix) * (data[i + width + 1] - data[i + width])
  return top + (y - iy) * (bottom - top)
}
