import { createPicture, type Picture, type Rectangle } from '../raster'
import { diffraction_px, type CameraSetup, type View } from './camera'
import { exposeLens } from './exposeLens'
import { strike, type Speck, type Strike } from './faults'
import { gaussian, randomStream } from './random'
import { sampleMoment } from './sampled'
import type { SampledScene } from './sampledScene'
import type { Scene } from './scene'
import { develop } from './sensor'

/** One exposure: what happens meanwhile and what the sensor makes of it. The numbers choose what chance brings. */
export interface Taking {
  strike: Strike
  dust: Speck[]
  moment: number
  /** Nothing is carried by wind where absent. */
  wind?: number
  /** How far what stands before the backdrop lies elsewhere, as a part of its sway. */
  stirred?: number
  noise: number
  exposure: number
  fullWell: number
  /** The part of the picture to take; all of it where absent. */
  window?: Rectangle
}

/** Pixels have width: what a sharp edge spreads by before diffraction. */
const PIXEL_SOFTNESS_px = 0.38

/** Takes a picture, or a part of one that is the same as in the whole but for the noise. */
export function takePicture(sampled: SampledScene, scene: Scene, camera: CameraSetup, view: View, taking: Taking): Picture {
  const { strike: struck, dust, moment, exposure, fullWell } = taking
  const softness_px = Math.hypot(diffraction_px(camera), PIXEL_SOFTNESS_px)
  const whole = { x: 0, y: 0, width: camera.width_px, height: camera.height_px }
  const window = taking.window ?? whole
  const exposed = taking.window ? grownWithin(window, Math.ceil(3 * softness_px + struck.shake_px) + 1, whole) : whole
  const wind = taking.wind === undefined ? undefined : randomStream(taking.wind)
  const drift = (layer: number): [number, number] => {
    const sway = sampled.layers[layer].sway_px
    if (taking.stirred) return [taking.stirred * sway, -0.4 * taking.stirred * sway]
    return wind && sway > 0 ? [gaussian(wind) * sway * 0.5, gaussian(wind) * sway * 0.2] : [0, 0]
  }
  const light = exposeLens(sampleMoment(sampled, scene, moment), camera, view, { drift, window: exposed })
  if (struck.hand || struck.shake_px > 0 || dust.length > 0 || struck.tint.some((factor) => factor !== 1))
    strike(light, struck, dust, { ...whole, x: exposed.x, y: exposed.y })
  const noise = taking.noise + 104_729 * (exposed.y + exposed.x)
  const picture = develop(light, { fullWell, readNoise: 4, exposure, softness_px }, noise)
  return taking.window ? cut(picture, { ...window, x: window.x - exposed.x, y: window.y - exposed.y }) : picture
}

function grownWithin({ x, y, width, height }: Rectangle, by: number, whole: Rectangle): Rectangle {
  const [left, top] = [Math.max(0, x - by), Math.max(0, y - by)]
  return { x: left, y: top, width: Math.min(whole.width, x + width + by) - left, height: Math.min(whole.height, y + height + by) - top }
}

function cut(picture: Picture, { x, y, width, height }: Rectangle): Picture {
  const out = createPicture(width, height)
  picture.planes.forEach(({ data }, c) => {
    for (let row = 0; row < height; row++)
      out.planes[c].data.set(data.subarray((y + row) * picture.width + x, (y + row) * picture.width + x + width), row * width)
  })
  return out
}
