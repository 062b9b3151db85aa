import { movesCamera } from '../movers'
import { compose, createPlane, IDENTITY, invert, type Picture, type Plane, type Similarity } from '../raster'
import { pixelsPer_mm, viewAt, type CameraSetup, type View } from './camera'
import { exposeLens } from './exposeLens'
import { shotsOf, specksOf, type Fault, type Shot, type Speck } from './faults'
import { gaussian, randomStream } from './random'
import { sampleScene } from './sampled'
import type { SampledScene } from './sampledScene'
import type { Scene } from './scene'
import { SCENES } from './scenes'
import { developSharp } from './sensor'
import { takePicture } from './takePicture'

/** What is asked of the simulator: a scene, a camera, and the planes of focus in the order they are shot. */
export interface SeriesRequest {
  scene: string
  seed: number
  camera: CameraSetup
  /** Planes of focus from the subject's near edge, away from the camera. */
  positions_mm: number[]
  /** How far the camera moves by accident between frames (deviations), and how much the light varies. */
  unsteadiness: { shift_px: number; rotation_deg: number; exposure_ev: number }
  fullWell: number
  /** How far wind carries whatever stands before the backdrop to either side, in mm; the reference is taken in a calm. */
  breeze_mm?: number
  /** What goes wrong; nothing where absent. */
  faults?: Fault[]
}

export interface SimulatedFrame {
  picture: Picture
  position_mm: number
  /** Motion of what is in focus, from the reference frame (the middle one) to this one. */
  motion: Similarity
  exposure: number
  /** The faults that struck this frame. */
  faults: Fault['kind'][]
}

/** A series ready to be shot, frame by frame. */
export class SimulatedSeries {
  readonly reference: number
  /** As many as are really taken, which faults may make more or fewer than were asked for. */
  readonly count: number
  private readonly shots: Shot[]
  private readonly dust: Speck[]
  private readonly views: View[]
  private readonly exposures: number[]
  private readonly scene: Scene
  /** Something stirs in it, and else there is no breeze. */
  private readonly isCalm: boolean
  private readonly sampled: SampledScene

  constructor(private readonly request: SeriesRequest) {
    const { camera, positions_mm, unsteadiness, seed, faults = [] } = request
    const random = randomStream(seed)
    this.shots = shotsOf(positions_mm, faults, camera.width_px, randomStream(seed + 77))
    this.count = this.shots.length
    const specks = faults.reduce((sum, fault) => sum + (fault.kind === 'dust' ? fault.specks : 0), 0)
    this.dust = specksOf(specks, randomStream(seed + 99))
    this.reference = Math.ceil(this.count / 2) - 1
    const middle = this.shots[this.reference].position_mm
    this.views = this.shots.map(({ position_mm, dx_px, dy_px, pushed }) => {
      const jitter = {
        scale: 1,
        rotation_rad: ((gaussian(random) * unsteadiness.rotation_deg) / 180) * Math.PI,
        dx_px: gaussian(random) * unsteadiness.shift_px + (pushed ? 0 : dx_px),
        dy_px: gaussian(random) * unsteadiness.shift_px + (pushed ? 0 : dy_px),
      }
      // Pushed to the left, it sees everything farther to the right.
      const mmPer_px = pushed ? -camera.sensorWidth_mm / camera.width_px / camera.magnification : 0
      return viewAt(camera, position_mm, middle, jitter, [dx_px * mmPer_px, dy_px * mmPer_px])
    })
    this.exposures = this.shots.map((shot) => shot.exposure * 2 ** (gaussian(random) * unsteadiness.exposure_ev))
    this.scene = inWind(SCENES[request.scene](seed), Math.max(request.breeze_mm ?? 0, stirred_mm(faults, camera)))
    this.isCalm = !request.breeze_mm && this.shots.some(({ stirred }) => stirred > 0)
    const fromOnePlace = !movesCamera(camera.mover) && !this.shots.some(({ pushed }) => pushed)
    this.sampled = sampleScene(this.scene, camera, viewAt(camera, middle, middle, IDENTITY), { fromOnePlace })
  }

  /** Shoots frame `index` (0-based). */
  shoot(index: number): SimulatedFrame {
    const { camera, fullWell, seed, breeze_mm } = this.request
    const exposure = this.exposures[index]
    const shot = this.shots[index]
    const picture = takePicture(this.sampled, this.scene, camera, this.views[index], {
      strike: shot,
      dust: this.dust,
      moment: index,
      // Without a breeze nothing sways but what scenes move themselves, and what was said to stir.
      ...(this.isCalm || (breeze_mm && index === this.reference) ? { stirred: shot.stirred } : { wind: seed * 131 + index }),
      noise: seed * 7919 + index,
      exposure,
      fullWell,
    })
    return { picture, position_mm: shot.position_mm, motion: this.motion(index), exposure, faults: shot.faults }
  }

  /** The reference frame's view with everything sharp and no noise. */
  truth(): Picture {
    return developSharp(exposeLens(this.sampled, this.request.camera, this.views[this.reference], { sharp: true }))
  }

  /**
   * Depth z, in mm from the near edge, of what the reference frame shows at each pixel: of the nearest surface that covers
   * half of it. What lies between a hair and its ground is the depth of neither, however a pixel mixes their colours.
   */
  truthDepth_mm(): Plane {
    const { camera } = this.request
    const view = this.views[this.reference]
    const depth = createPlane(camera.width_px, camera.height_px)
    for (const layer of this.sampled.layers) {
      // One over the distance and coverage are carried where colours were; light of no blur keeps them as they are.
      const colour = new Float32Array(layer.colour.length)
      for (let i = 0; i < colour.length; i += 4) {
        const alpha = layer.colour[i + 3]
        colour.set([layer.inverse[i >> 2] * alpha, alpha, 0, alpha], i)
      }
      const [inverse, covered] = exposeLens({ ...this.sampled, layers: [{ ...layer, colour }] }, camera, view, { sharp: true }).planes
      for (let i = 0; i < depth.data.length; i++) if (covered.data[i] >= 0.5) depth.data[i] = covered.data[i] / inverse.data[i] + view.pupilZ
    }
    return depth
  }

  /**
   * Motion of the picture from the reference frame to frame `index`. With the ring it is the same at every depth. On a
   * rail it is that of the planes of focus, each step taken at the depth midway between two neighbours. Where the camera
   * was pushed aside, it is that of what the frame is focused on.
   */
  private motion(index: number): Similarity {
    const step = Math.sign(index - this.reference)
    let scale = 1
    for (let k = this.reference; k !== index; k += step) {
      const midway = (this.views[k].focusZ + this.views[k + step].focusZ) / 2
      scale *= pixelsPer_mm(this.views[k + step], midway) / pixelsPer_mm(this.views[k], midway)
    }
    const [view, reference] = [this.views[index], this.views[this.reference]]
    const pxPer_mm = pixelsPer_mm(view, view.focusZ)
    const [dx_px, dy_px] = [0, 1].map((axis) => (reference.aside_mm[axis] - view.aside_mm[axis]) * pxPer_mm)
    return compose(view.jitter, compose({ scale, rotation_rad: 0, dx_px, dy_px }, invert(reference.jitter)))
  }
}

/** How far what stirs goes, in mm on the subject. */
function stirred_mm(faults: Fault[], { sensorWidth_mm, magnification }: CameraSetup): number {
  const percent = faults.reduce((most, fault) => (fault.kind === 'stirred' ? Math.max(most, fault.shift_percent) : most), 0)
  return ((percent / 100) * sensorWidth_mm) / magnification
}

function inWind(scene: Scene, sway_mm?: number): Scene {
  if (!sway_mm) return scene
  return { ...scene, layers: scene.layers.map((layer) => (layer.backdrop ? layer : { ...layer, sway_mm })) }
}
