import { createPicture, encoded, type Picture } from '../raster'
import { Workspace } from '../raster/kernels'
import { kernelsOfThread } from './kernelsOfThread'
import { normalQuantiles, streamState } from './random'

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
export const WHITE = 1.25

/** Turns light into a developed picture: softness, photon and read noise, clipping, sRGB encoding, 0 … 1. `seed` chooses the noise. */
export function develop({ width, height, planes }: Picture, { fullWell, readNoise, exposure, softness_px }: SensorSetup, seed: number): Picture {
  const picture = createPicture(width, height)
  const space = new Workspace(kernelsOfThread(), width)
  const { kernels } = space
  const soften = softener(space, width, height, softness_px)
  const [normal, encoded] = [normalQuantiles(), ENCODED].map((values) => listed(space, values))
  planes.forEach(({ data }, c) => {
    const light = soften(data)
    const sensor = [(exposure * fullWell) / WHITE, readNoise, fullWell, streamState(seed), c * width * height]
    kernels.run('develop', [light.at, light.stride, width, ...sensor, normal.at, encoded.at], height)
    picture.planes[c].data.set(space.copy(light))
  })
  return picture
}

/** The light as it falls on the pixels: red, green and blue, each softened. */
export function softened({ width, height, planes }: Picture, softness_px: number): Float32Array[] {
  const space = new Workspace(kernelsOfThread(), width)
  const soften = softener(space, width, height, softness_px)
  return planes.map(({ data }) => space.copy(soften(data)))
}

/** Softens one plane after the other in the same room; what it answers holds until the next. */
function softener(space: Workspace, width: number, height: number, softness_px: number) {
  const [light, along] = [space.plane(width, height), space.plane(width, height)]
  const taps = listed(space, softening(softness_px))
  return (data: Float32Array) => {
    const rows = space.view(light)
    for (let y = 0; y < height; y++) rows.set(data.subarray(y * width, (y + 1) * width), y * light.stride)
    space.kernels.run('softenAlong', [light.at, along.at, light.stride, width, taps.at, taps.count], height)
    space.kernels.run('softenDown', [along.at, light.at, light.stride, height, taps.at, taps.count], height)
    return light
  }
}

function listed(space: Workspace, values: Float32Array): { at: number; count: number } {
  const at = space.bytes(values.length * 4)
  new Float32Array(space.kernels.buffer(), at, values.length).set(values)
  return { at, count: values.length }
}

/** Weights of a Gaussian of `deviation` px along one side. */
function softening(deviation: number): Float32Array {
  const radius = Math.max(1, Math.ceil(3 * deviation))
  const weights = Array.from({ length: 2 * radius + 1 }, (_, k) => Math.exp(-((k - radius) ** 2) / (2 * deviation ** 2)))
  const total = weights.reduce((a, b) => a + b, 0)
  return Float32Array.from(weights, (weight) => weight / total)
}

/** Encodes linear light without noise or blur. */
export function developSharp(light: Picture): Picture {
  const [red, green, blue] = light.planes.map((plane) => ({ ...plane, data: plane.data.map((value) => encode(value / WHITE)) }))
  return { ...light, planes: [red, green, blue] }
}

/** The sRGB value of light, clipped. */
const encode = (light: number) => encoded(Math.min(1, Math.max(0, light)))

/** Codes of values in steps of a 4096th: a frame has millions of pixels. */
const CODES = 4096
const ENCODED = Float32Array.from({ length: CODES + 2 }, (_, k) => encode(k / CODES))
