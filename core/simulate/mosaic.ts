import { MOSAIC, type RawPicture } from '../formats'
import type { Picture } from '../raster'
import { softened, WHITE, type SensorSetup } from './sensor'
import { gaussian, randomStream } from './random'

/** What the simulated sensor's filters let through of linear sRGB's red, green and blue: rows red, green, blue. */
const FILTERS = [
  [0.3, 0.17, 0.03],
  [0.18, 0.72, 0.1],
  [0.03, 0.19, 0.44],
]
/** Linear sRGB from XYZ (D65). Source: IEC 61966-2-1. */
const SRGB_FROM_XYZ = [
  [3.2404542, -1.5371385, -0.4985314],
  [-0.969266, 1.8760108, 0.041556],
  [0.0556434, -0.2040259, 1.0572252],
]
const BLACK = 512
const FULL = 16_383

/** What is grey, as the sensor sees it; green, which sees most, is 1. */
const NEUTRAL = FILTERS.map((row) => row.reduce((a, b) => a + b))
const CAMERA_FROM_XYZ = FILTERS.map((row) => [0, 1, 2].map((column) => row.reduce((sum, part, k) => sum + part * SRGB_FROM_XYZ[k][column], 0)))

/**
 * What the sensor counts of the light that falls on it, before anything is made of it: softness, photon and read noise, a full
 * pixel. White in the developed picture of the same exposure fills a pixel behind green. `seed` chooses the noise.
 */
export function countPhotons(light: Picture, setup: SensorSetup, seed: number): RawPicture {
  const { width, height } = light
  return countAt({ width, height, planes: softened(light, setup.softness_px), finer: 1 }, [0, 0], setup, seed)
}

/** Light on the sensor, so many times finer than its pixels, softened as those see it. */
export interface FineLight {
  width: number
  height: number
  planes: Float32Array[]
  finer: number
}

/** The same of a sensor that was shifted: by so many of the light's own px. At the border it sees what lies there. */
export function countAt(light: FineLight, [left, top]: readonly [number, number], setup: Omit<SensorSetup, 'softness_px'>, seed: number): RawPicture {
  const { planes, finer } = light
  const [width, height] = [Math.floor(light.width / finer), Math.floor(light.height / finer)]
  const { fullWell, readNoise, exposure } = setup
  const counts = new Uint16Array(width * height)
  const random = randomStream(seed + 31)
  for (let y = 0, to = 0; y < height; y++)
    for (let x = 0; x < width; x++, to++) {
      const filter = FILTERS[MOSAIC[2 * (y & 1) + (x & 1)]]
      const i = Math.min(light.height - 1, finer * y + top) * light.width + Math.min(light.width - 1, finer * x + left)
      const photons = ((filter[0] * planes[0][i] + filter[1] * planes[1][i] + filter[2] * planes[2][i]) * exposure * fullWell) / WHITE
      const noisy = photons + gaussian(random) * Math.sqrt(photons + readNoise * readNoise)
      counts[to] = Math.min(FULL, Math.max(0, Math.round(BLACK + (Math.min(noisy, fullWell) / fullWell) * (FULL - BLACK))))
    }
  return { width, height, counts, black: BLACK, white: FULL, cameraFromXyz: CAMERA_FROM_XYZ, neutral: NEUTRAL }
}
