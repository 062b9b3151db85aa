import { createPlane, type Picture, type Plane } from '../raster'
import { quickGaussian } from './random'

export interface SensorSetup {
  /** Photons that fill a pixel: fewer means more noise. */
  fullWell: number
  readNoise: number
  /** Factor on the light: 1 as metered. */
  exposure: number
  /** Deviation of the small blur by diffraction and the pixel's own width, px. */
  softness_px: number
}

/** Scene light that fills a pixel at exposure 1. */
const WHITE = 1.25

/** Turns light into a developed picture: softness, photon and read noise, clipping, sRGB encoding, 0 … 1. */
export function develop(light: Picture, sensor: SensorSetup, random: () => number): Picture {
  const [red, green, blue] = light.planes.map((plane) => developPlane(soften(plane, sensor.softness_px), sensor, random))
  return { ...light, planes: [red, green, blue] }
}

/** Encodes linear light without noise or blur. */
export function developSharp(light: Picture): Picture {
  const [red, green, blue] = light.planes.map((plane) => ({ ...plane, data: plane.data.map((value) => encode(value / WHITE)) }))
  return { ...light, planes: [red, green, blue] }
}

function developPlane(plane: Plane, { fullWell, readNoise, exposure }: SensorSetup, random: () => number): Plane {
  const { data } = plane
  const perLight = (exposure * fullWell) / WHITE
  for (let i = 0; i < data.length; i++) {
    const photons = Math.max(0, data[i] * perLight)
    const counted = photons + quickGaussian(random) * Math.sqrt(photons + readNoise ** 2)
    data[i] = encodeQuickly(counted / fullWell)
  }
  return plane
}

/** The sRGB transfer function (IEC 61966-2-1), clipped. */
function encode(value: number): number {
  const v = Math.min(1, Math.max(0, value))
  return v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055
}

const CODES = 4096
const ENCODED = Float32Array.from({ length: CODES + 2 }, (_, k) => encode(k / CODES))

/** The same from a table, to a few parts in 100 000: a frame has millions of pixels. */
function encodeQuickly(value: number): number {
  if (value >= 1) return 1
  if (value <= 0.0031308) return value <= 0 ? 0 : 12.92 * value
  const at = value * CODES
  const k = at | 0
  return ENCODED[k] + (at - k) * (ENCODED[k + 1] - ENCODED[k])
}

/** A Gaussian of `deviation` px along both sides, the picture's edge repeated; a new plane. */
function soften(plane: Plane, deviation: number): Plane {
  const reach = Math.max(1, Math.ceil(3 * deviation))
  const weights = Array.from({ length: 2 * reach + 1 }, (_, k) => Math.exp(-((k - reach) ** 2) / (2 * deviation ** 2)))
  const total = weights.reduce((a, b) => a + b, 0)
  const kernel = weights.map((weight) => weight / total)
  return softenDown(softenAlong(plane, kernel), kernel)
}

function softenAlong({ width, height, data }: Plane, kernel: number[]): Plane {
  const out = createPlane(width, height)
  const reach = (kernel.length - 1) / 2
  const row = new Float32Array(width + 2 * reach)
  for (let y = 0; y < height; y++) {
    const start = y * width
    for (let x = 0; x < row.length; x++) row[x] = data[start + Math.min(width - 1, Math.max(0, x - reach))]
    for (let x = 0; x < width; x++) {
      let sum = 0
      for (let k = 0; k < kernel.length; k++) sum += kernel[k] * row[x + k]
      out.data[start + x] = sum
    }
  }
  return out
}

function softenDown({ width, height, data }: Plane, kernel: number[]): Plane {
  const out = createPlane(width, height)
  const reach = (kernel.length - 1) / 2
  for (let y = 0; y < height; y++) {
    const start = y * width
    for (let k = -reach; k <= reach; k++) {
      const from = Math.min(height - 1, Math.max(0, y + k)) * width
      const weight = kernel[k + reach]
      for (let x = 0; x < width; x++) out.data[start + x] += weight * data[from + x]
    }
  }
  return out
}
