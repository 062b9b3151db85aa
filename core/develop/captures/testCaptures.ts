import type { Interleaved } from '../../raster'
import { gaussian, randomStream } from '../../simulate'

/** Light of the scene at a place of the first capture, px of the sensor: red, green, blue of 16 bits. */
export type Seen = (x: number, y: number) => readonly [number, number, number]

const FILTERS = [0, 1, 1, 2]

/** What a sensor standing so far aside counts, spread over three channels as the raw library gives it. */
export function captured(seen: Seen, [left, top]: readonly [number, number], width: number, height: number, noise = 0, seed = 1): Interleaved {
  const random = randomStream(seed)
  const samples = new Uint16Array(3 * width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const channel = FILTERS[2 * (y & 1) + (x & 1)]
      const value = seen(x + left, y + top)[channel] + noise * gaussian(random)
      samples[3 * (y * width + x) + channel] = Math.max(1, Math.min(65_535, Math.round(value)))
    }
  return { width, height, samples }
}

/** Four places one pixel apart, and sixteen half a pixel apart, in the order in which a sensor goes round. */
export const FOUR: [number, number][] = [[0, 0], [1, 0], [1, 1], [0, 1]] // prettier-ignore
export const SIXTEEN: [number, number][] = [[0, 0], [0.5, 0], [0.5, 0.5], [0, 0.5]].flatMap(([x, y]) => FOUR.map(([u, v]): [number, number] => [u + x, v + y])) // prettier-ignore
