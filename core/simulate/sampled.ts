import { pixelsPer_mm, type CameraSetup, type View } from './camera'
import type { Layer, Scene, Sight } from './scene'

/** A layer seen from one place, sampled finer than the pictures made from it. */
export interface SampledLayer {
  backdrop: boolean
  /** Extent in samples, and where its first sample lies from the optical axis. */
  width: number
  height: number
  left: number
  top: number
  /** Red, green, blue (times alpha) and alpha, linear light. */
  colour: Float32Array
  /** Depth slab of each sample; EMPTY where there is nothing. */
  slab: Uint8Array
}

export interface SampledScene {
  layers: SampledLayer[]
  /** Depth in the middle of each slab. */
  slabDepth: number[]
  /** The view it was sampled from and samples per pixel of it. */
  view: View
  density: number
}

export const EMPTY = 255
const MOST_SLABS = 250

/** Samples per pixel, along one side: enough that resampling costs no sharpness. */
const DENSITY = 1.5

/** Room around the picture for views that see more of the scene, as part of it. */
const MARGIN = 0.14

/** Samples every layer once; all frames of a series are then made from the samples. `slab_px` is the blur step. */
export function sampleScene(scene: Scene, setup: CameraSetup, view: View, density = DENSITY): SampledScene {
  const slabDepth = slabs(scene, view)
  const layers = scene.layers.map((layer) => sampleLayer(layer, setup, view, density, slabDepth)).filter((layer) => layer !== undefined)
  return { layers, slabDepth, view, density }
}

/** Depths so close that neighbouring slabs differ by about half a pixel of blur when the middle is in focus. */
function slabs(scene: Scene, view: View): number[] {
  const near = Math.min(...scene.layers.map((layer) => layer.bounds.near))
  const far = Math.max(...scene.layers.map((layer) => layer.bounds.far))
  const blurRange = (view.aperture_mm * view.image_mm * (1 / (near - view.pupilZ) - 1 / (far - view.pupilZ))) / view.pitch_mm
  const count = Math.min(MOST_SLABS, Math.max(4, Math.ceil(blurRange / 0.6)))
  // Even in 1/distance, as blur is.
  const a = 1 / (near - view.pupilZ)
  const b = 1 / (far - view.pupilZ)
  return Array.from({ length: count }, (_, k) => view.pupilZ + 1 / (a + ((k + 0.5) / count) * (b - a)))
}

function sampleLayer(layer: Layer, setup: CameraSetup, view: View, density: number, slabDepth: number[]): SampledLayer | undefined {
  const halfWidth = (setup.width_px / 2) * (1 + MARGIN) * density
  const halfHeight = (setup.height_px / 2) * (1 + MARGIN) * density
  const scaleAt = (z: number) => pixelsPer_mm(view, z) * density
  const { bounds } = layer
  const scales = [scaleAt(bounds.near), scaleAt(bounds.far)]
  const reach = (edge: number, limit: number, sign: number) =>
    layer.backdrop ? sign * limit : sign * Math.min(limit, Math.max(...scales.map((s) => sign * edge * s)) + 2)
  const left = Math.floor(reach(bounds.left, halfWidth, -1))
  const right = Math.ceil(reach(bounds.right, halfWidth, 1))
  const top = Math.floor(reach(bounds.top, halfHeight, -1))
  const bottom = Math.ceil(reach(bounds.bottom, halfHeight, 1))
  if (right <= left || bottom <= top) return undefined
  const [width, height] = [right - left, bottom - top]
  const colour = new Float32Array(width * height * 4)
  const slab = new Uint8Array(width * height).fill(EMPTY)
  const sight: Sight = { z: 0, red: 0, green: 0, blue: 0, alpha: 0 }
  const a = 1 / (slabDepth[0] - view.pupilZ)
  const b = 1 / (slabDepth.at(-1)! - view.pupilZ)
  let z = (bounds.near + bounds.far) / 2
  for (let row = 0, i = 0; row < height; row++) {
    for (let column = 0; column < width; column++, i++) {
      // The ray meets the layer where x = ray · depth; two rounds from the neighbour's depth settle it.
      for (let round = 0; round < 2; round++) z = layer.depthAt((left + column) / scaleAt(z), (top + row) / scaleAt(z))
      const scale = scaleAt(z)
      if (!layer.see((left + column) / scale, (top + row) / scale, 1 / scale, sight)) continue
      colour[4 * i] = sight.red * sight.alpha
      colour[4 * i + 1] = sight.green * sight.alpha
      colour[4 * i + 2] = sight.blue * sight.alpha
      colour[4 * i + 3] = sight.alpha
      const place = ((1 / (sight.z - view.pupilZ) - a) / (b - a)) * (slabDepth.length - 1)
      slab[i] = Math.min(slabDepth.length - 1, Math.max(0, Math.round(place)))
    }
  }
  return { backdrop: layer.backdrop, width, height, left, top, colour, slab }
}
