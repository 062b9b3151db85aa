import { createPlane, type Picture, type Plane } from '../raster'
import { gaussian } from './random'

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
  const out = createPlane(plane.width, plane.height)
  for (let i = 0; i < out.data.length; i++) {
    const photons = Math.max(0, (plane.data[i] / WHITE) * exposure * fullWell)
    const counted = photons + gaussian(random) * Math.sqrt(photons + readNoise ** 2)
    out.data[i] = encode(counted / fullWell)
  }
  return out
}

/** The sRGB transfer function (IEC 61966-2-1), clipped. */
function encode(value: number): number {
  const v = Math.min(1, Math.max(0, value))
  return v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055
}

function soften(plane: Plane, deviation: number): Plane {
  const reach = Math.max(1, Math.ceil(3 * deviation))
  const weights = Array.from({ length: 2 * reach + 1 }, (_, k) => Math.exp(-((k - reach) ** 2) / (2 * deviation ** 2)))
  const total = weights.reduce((a, b) => a + b, 0)
  return convolve(convolve(plane, weights, total, true), weights, total, false)
}

function convolve({ width, height, data }: Plane, weights: number[], total: number, along: boolean): Plane {
  const out = createPlane(width, height)
  const reach = (weights.length - 1) / 2
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = 0
      for (let k = -reach; k <= reach; k++) {
        const sx = along ? Math.min(width - 1, Math.max(0, x + k)) : x
        const sy = along ? y : Math.min(height - 1, Math.max(0, y + k))
        sum += weights[k + reach] * data[sy * width + sx]
      }
      out.data[y * width + x] = sum / total
    }
  }
  return out
}
