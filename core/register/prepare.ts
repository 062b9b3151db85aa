import type { Plane } from '../raster'
import { lightOf, POINT, WasmKernels, Workspace, type Kernels, type Slab } from '../raster/kernels'
import { valueAt } from './select'

/** Rows and columns below this are too few to align on. */
const COARSEST_px = 48
const FINEST_WIDTH_px = 1600
/** So many points are aligned on: a part of the pixels, but neither fewer than the first nor more than the second number. */
const SHARE = 0.05
const [LEAST_POINTS, MOST_POINTS] = [16_000, 40_000]
/** So much of what a softer picture shows too is no fine detail; the rest decides where there is none but noise. */
const SOFT_SHARE = 0.95
/** One pixel in so many tells how strong gradients are; a prime number, so that they do not line up. */
const SAMPLED = 61

/** A frame made ready to be registered with others: its pyramid with gradients, computed once and used for several pairs. */
export interface Prepared {
  /** The finest first. */
  levels: Level[]
}

export interface Level {
  width: number
  height: number
  /** From one row to the next, in places. */
  stride: number
  image: Float32Array
  /** The points to align on, six numbers each (see POINT). */
  points: Float32Array
}

/**
 * Makes frames ready. Registration works on linear light: there an edge spreads to both sides evenly when it goes out of
 * focus, where encoded values would move it towards the dark.
 */
export class Preparer {
  constructor(private readonly kernels: Kernels = new WasmKernels()) {}

  /** From interleaved RGB samples, 8 or 16 bits. */
  fromSamples(samples: Uint8Array | Uint16Array, width: number, height: number): Prepared {
    const space = new Workspace(this.kernels, width)
    return this.pyramid(space, space.luma(samples, width, height, 'light'))
  }

  /** From luma on encoded values. */
  fromLuma({ width, height, data }: Plane): Prepared {
    const space = new Workspace(this.kernels, width)
    const luma = space.plane(width, height)
    const to = space.view(luma)
    for (let y = 0, i = 0; y < height; y++) for (let o = y * luma.stride; o < y * luma.stride + width; o++, i++) to[o] = lightOf(data[i])
    return this.pyramid(space, luma)
  }

  private pyramid(space: Workspace, luma: Slab): Prepared {
    let plane = luma
    const levels: Level[] = []
    const coarsest = Math.max(0, Math.floor(Math.log2(Math.min(luma.width, luma.height) / COARSEST_px)))
    for (let level = 0; level <= coarsest; level++) {
      if (level > 0) plane = space.halved(plane)
      if (plane.width <= FINEST_WIDTH_px || level === coarsest) levels.push(this.level(space, plane, levels.length === 0))
    }
    return { levels }
  }

  /**
   * Points of the finest level are the strongest in fine detail: what is as strong in a softer picture is the edge of something
   * out of focus, and counts only where there is nothing finer. Coarser levels are to find the way, from wherever there is contrast.
   */
  private level(space: Workspace, plane: Slab, finest: boolean): Level {
    const { width, height, stride } = plane
    const [image, soft, gx, gy, strength] = Array.from({ length: 5 }, () => space.plane(width, height))
    this.kernels.run('smooth', [plane.at, stride, width, height, image.at], height)
    if (finest) this.kernels.run('smooth', [image.at, stride, width, height, soft.at], height)
    this.kernels.run(
      'gradients',
      [image.at, finest ? soft.at : image.at, finest ? SOFT_SHARE : 0, stride, width, height, gx.at, gy.at, strength.at],
      height,
    )
    const wanted = Math.min(MOST_POINTS, Math.max(LEAST_POINTS, SHARE * width * height))
    const most = Math.ceil(2 * wanted)
    const [points, count] = [space.bytes(most * POINT.size * 4), space.bytes(8)]
    const threshold = thresholdOf(space.view(strength), width, height, stride, wanted)
    this.kernels.run('collect', [strength.at, image.at, gx.at, gy.at, stride, width, height, threshold, points, most, count], 1)
    const [found] = new Float64Array(this.kernels.buffer(), count, 1)
    const copied = new Float32Array(this.kernels.buffer(), points, found * POINT.size).slice()
    return { width, height, stride, image: space.view(image).slice(), points: copied }
  }
}

/** The strength that so few points exceed as are wanted. */
function thresholdOf(strength: Float32Array, width: number, height: number, stride: number, wanted: number): number {
  const sample = new Float32Array(Math.ceil((stride * height) / SAMPLED) + 1)
  let sampled = 0
  for (let i = 2 * stride; i < (height - 2) * stride; i += SAMPLED) {
    const x = i % stride
    if (x >= 2 && x < width - 2) sample[sampled++] = strength[i]
  }
  const share = Math.min(0.5, wanted / (width * height))
  return sampled > 0 ? valueAt(sample.subarray(0, sampled), sampled - 1 - Math.floor(sampled * share)) : 0
}
