import type { RawPicture } from '../formats'
import { createPicture, type Picture, type Rectangle } from '../raster'
import { diffraction_px, spherical_px, type CameraSetup, type View } from './camera'
import { exposeLens } from './exposeLens'
import { strike, type Speck, type Strike } from './faults'
import { countPhotons, type FineLight } from './mosaic'
import { gaussian, randomStream } from './random'
import { sampleMoment } from './sampled'
import type { SampledScene } from './sampledScene'
import type { Scene } from './scene'
import { develop, softened, type SensorSetup } from './sensor'

/** When something is seen: what moves lies elsewhere each time. */
export interface Moment {
  moment: number
  /** Nothing is carried by wind where absent. */
  wind?: number
  /** How far what stands before the backdrop lies elsewhere, as a part of its sway. */
  stirred?: number
}

/** One exposure: what happens meanwhile and what the sensor makes of it. The numbers choose what chance brings. */
export interface Taking extends Moment {
  strike: Strike
  dust: Speck[]
  noise: number
  exposure: number
  fullWell: number
  /** How many px of the picture a pixel of the sensor is wide; one where absent. */
  pixel_px?: number
  /** The part of the picture to take; all of it where absent. */
  window?: Rectangle
}

/** Pixels have width: what a sharp edge spreads by before diffraction. */
const PIXEL_SOFTNESS_px = 0.38

/** Takes a picture, or a part of one that is the same as in the whole but for the noise. */
export function takePicture(sampled: SampledScene, scene: Scene, camera: CameraSetup, view: View, taking: Taking): Picture {
  const { window } = taking
  const { light, exposed, sensor, noise } = lightOn(sampled, scene, camera, view, taking)
  const picture = develop(light, sensor, noise)
  return window ? cut(picture, { ...window, x: window.x - exposed.x, y: window.y - exposed.y }) : picture
}

/** The same exposure as a raw file has it, and as the camera would develop it itself. */
export function takeRaw(
  sampled: SampledScene,
  scene: Scene,
  camera: CameraSetup,
  view: View,
  taking: Omit<Taking, 'window'>,
): { raw: RawPicture; picture: Picture } {
  const { light, sensor, noise } = lightOn(sampled, scene, camera, view, taking)
  return { raw: countPhotons(light, sensor, noise), picture: develop(light, sensor, noise) }
}

/** What a sensor whose pixels are so many px wide is offered, at every px: whatever place it is shifted to, it counts what lies there. */
export function takeLight(
  ...[sampled, scene, camera, view, taking]: [SampledScene, Scene, CameraSetup, View, Omit<Taking, 'window'> & { pixel_px: number }]
): { light: FineLight; picture: Picture; sensor: SensorSetup; noise: number } {
  const { light, sensor, noise } = lightOn(sampled, scene, camera, view, taking)
  const { width, height } = light
  const planes = softened(light, sensor.softness_px)
  return { light: { width, height, planes, finer: taking.pixel_px }, picture: develop(light, sensor, noise), sensor, noise }
}

/** The light on the sensor, around the part that is asked for as far as it spreads, and what the sensor makes of it. */
function lightOn(sampled: SampledScene, scene: Scene, camera: CameraSetup, view: View, taking: Taking) {
  const { strike: struck, dust, moment, exposure, fullWell, pixel_px = 1 } = taking
  const softness_px = Math.hypot(diffraction_px(camera), spherical_px(camera), PIXEL_SOFTNESS_px * pixel_px)
  const whole = { x: 0, y: 0, width: camera.width_px, height: camera.height_px }
  const exposed = taking.window ? grownWithin(taking.window, Math.ceil(3 * softness_px + struck.shake_px) + 1, whole) : whole
  const drift = drifting(sampled, taking)
  const light = exposeLens(sampleMoment(sampled, scene, moment), camera, view, { drift, window: exposed })
  if (struck.hand || struck.shake_px > 0 || dust.length > 0 || struck.tint.some((factor) => factor !== 1))
    strike(light, struck, dust, { ...whole, x: exposed.x, y: exposed.y })
  const sensor: SensorSetup = { fullWell, readNoise: 4, exposure, softness_px }
  return { light, exposed, sensor, noise: taking.noise + 104_729 * (exposed.y + exposed.x) }
}

/** How far each layer is carried, in px, asked for from the first layer to the last, once. */
export function drifting(sampled: SampledScene, { wind, stirred }: Omit<Moment, 'moment'>): (layer: number) => [number, number] {
  const stream = wind === undefined ? undefined : randomStream(wind)
  return (layer) => {
    const sway = sampled.layers[layer].sway_px
    if (stirred) return [stirred * sway, -0.4 * stirred * sway]
    return stream && sway > 0 ? [gaussian(stream) * sway * 0.5, gaussian(stream) * sway * 0.2] : [0, 0]
  }
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
