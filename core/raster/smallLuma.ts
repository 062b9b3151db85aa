import { reduce } from './filters'
import { createPlane, type Plane } from './plane'

/** Encoded luma, 0 … 1, of interleaved RGB samples of 8 or 16 bits, halved until it is at most so wide. */
export function smallLuma(samples: Uint8Array | Uint16Array, width: number, height: number, widest_px: number): Plane {
  const plane = createPlane(width, height)
  const scale = 1 / (samples instanceof Uint16Array ? 65535 : 255)
  const [red, green, blue] = [0.2126 * scale, 0.7152 * scale, 0.0722 * scale]
  for (let i = 0, s = 0; i < plane.data.length; i++, s += 3) plane.data[i] = red * samples[s] + green * samples[s + 1] + blue * samples[s + 2]
  return narrowed(plane, widest_px)
}

/** A plane halved until it is at most so wide. */
export function narrowed(plane: Plane, widest_px: number): Plane {
  let small = plane
  while (small.width > widest_px) small = reduce(small)
  return small
}
