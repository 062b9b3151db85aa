import type { RawPicture } from '../formats'
import { movesCamera } from '../movers'
import { compose, createPlane, IDENTITY, invert, type Picture, type Plane, type Similarity } from '../raster'
import { pixelsPer_mm, viewAt, type CameraSetup, type View } from './camera'
import { exposeLens } from './exposeLens'
import { shotsOf, specksOf, type Fault, type Shot, type Speck } from './faults'
import { gaussian, randomStream } from './random'
import { sampleMoment, sampleScene } from './sampled'
import type { SampledScene } from './sampledScene'
import type { Scene } from './scene'
import type { CameraFile, CaptureCount } from './sceneNames'
import type { SheetSetup } from './scenes/target'
import { sceneOf } from './scenes'
import { developSharp } from './sensor'
import { drifting, takeLight, takePicture, takeRaw, type Moment, type Taking } from './takePicture'

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
  /** What the camera writes; JPEGs where absent. */
  files?: CameraFile
  /** Captures to a frame, the sensor shifted between them; one where absent. Raw files only. */
  captures?: CaptureCount
  /** How far wind carries whatever stands before the backdrop to either side, in mm; the reference is taken in a calm. */
  breeze_mm?: number
  /** How strongly the wind blows that the scene itself knows of: 1 as usual, 0 nothing moves, water neither. */
  wind?: number
  /** How far the camera is pushed aside between frames (deviation), in mm: near things move more than far ones. */
  aside_mm?: number
  /** How the printed sheet lies and how it was printed, where that is the scene. */
  sheet?: SheetSetup
  /** What goes wrong; nothing where absent. */
  faults?: Fault[]
}

export interface SimulatedFrame {
  picture: Picture
  /** What the sensor counted, where raw files are asked for. */
  raw?: RawPicture
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
    const pushing = randomStream(seed + 55)
    const aside = () => gaussian(pushing) * (request.aside_mm ?? 0)
    this.views = this.shots.map(({ position_mm, dx_px, dy_px, pushed }) => {
      const jitter = {
        scale: 1,
        rotation_rad: ((gaussian(random) * unsteadiness.rotation_deg) / 180) * Math.PI,
        dx_px: gaussian(random) * unsteadiness.shift_px + (pushed ? 0 : dx_px),
        dy_px: gaussian(random) * unsteadiness.shift_px + (pushed ? 0 : dy_px),
      }
      // Pushed to the left, it sees everything farther to the right.
      const mmPer_px = pushed ? -camera.sensorWidth_mm / camera.width_px / camera.magnification : 0
      return viewAt(camera, position_mm, middle, jitter, [dx_px * mmPer_px + aside(), dy_px * mmPer_px + aside()])
    })
    this.exposures = this.shots.map((shot) => shot.exposure * 2 ** (gaussian(random) * unsteadiness.exposure_ev))
    this.scene = inWind(sceneOf(request.scene, seed, request.sheet), request, stirred_mm(faults, camera))
    this.isCalm = !request.breeze_mm && this.shots.some(({ stirred }) => stirred > 0)
    const fromOnePlace = !movesCamera(camera.mover) && !this.shots.some(({ pushed }) => pushed) && !request.aside_mm
    this.sampled = sampleScene(this.scene, camera, viewAt(camera, middle, middle, IDENTITY), { fromOnePlace })
  }

  /** Shoots frame `index` (0-based). */
  shoot(index: number): SimulatedFrame {
    const { camera, files } = this.request
    const [view, taking] = [this.views[index], this.taking(index)]
    const taken =
      files === 'dng'
        ? takeRaw(this.sampled, this.scene, camera, view, taking)
        : { picture: takePicture(this.sampled, this.scene, camera, view, taking) }
    return { ...taken, ...this.factsOf(index) }
  }

  /** The light of frame `index` as pixels of the sensor see it that are so many px wide. */
  expose(index: number, pixel_px: number): ReturnType<typeof takeLight> & Omit<SimulatedFrame, 'picture' | 'raw'> {
    const taking = { ...this.taking(index), pixel_px }
    return { ...takeLight(this.sampled, this.scene, this.request.camera, this.views[index], taking), ...this.factsOf(index) }
  }

  private taking(index: number): Taking {
    const { fullWell, seed } = this.request
    const noise = seed * 7919 + index
    return { strike: this.shots[index], dust: this.dust, ...this.moment(index), noise, exposure: this.exposures[index], fullWell }
  }

  private factsOf(index: number): Omit<SimulatedFrame, 'picture' | 'raw'> {
    const { position_mm, faults } = this.shots[index]
    return { position_mm, motion: this.motion(index), exposure: this.exposures[index], faults }
  }

  /** The reference frame's view with everything sharp and no noise; with what moves where it lay in frame `index`, if one is named. */
  truth(index?: number): Picture {
    const { sampled, scene, request, views, reference } = this
    const moment = index === undefined ? undefined : this.moment(index)
    const there = moment ? sampleMoment(sampled, scene, moment.moment) : sampled
    const drift = moment && drifting(sampled, moment)
    return developSharp(exposeLens(there, request.camera, views[reference], { sharp: true, drift }))
  }

  /** Whether frames show different moments of the scene's own wind. */
  get hasMoments(): boolean {
    return this.request.wind !== undefined && this.request.wind > 0
  }

  /** When frame `index` is taken. Without a breeze nothing sways but what scenes move themselves, and what was said to stir. */
  private moment(index: number): Moment {
    const { breeze_mm, seed } = this.request
    const calm = this.isCalm || (breeze_mm !== undefined && breeze_mm > 0 && index === this.reference)
    return { moment: index, ...(calm ? { stirred: this.shots[index].stirred } : { wind: seed * 131 + index }) }
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

function inWind(scene: Scene, { breeze_mm = 0, wind = 1 }: SeriesRequest, stirred_mm: number): Scene {
  const sway_mm = Math.max(breeze_mm, stirred_mm)
  if (sway_mm) return { ...scene, layers: scene.layers.map((layer) => (layer.backdrop ? layer : { ...layer, sway_mm })) }
  if (wind === 1) return scene
  return {
    ...scene,
    layers: scene.layers.map(({ at, ...layer }) => ({
      ...layer,
      ...(layer.sway_mm && { sway_mm: wind * layer.sway_mm }),
      ...(wind > 0 && at && { at }),
    })),
  }
}
