import { IDENTITY, type Picture, type Rectangle } from '../raster'
import {
  finish,
  OPEN_F,
  sampling,
  sceneOf,
  takePicture,
  viewAt,
  type CameraSetup,
  type SampledScene,
  type Sampling,
  type Taking,
  type View,
} from '../simulate'
import type { Look } from './device'

/** Width of a live-view picture; small enough to come in less than a tenth of a second. */
export const LIVE_WIDTH_px = 330
const MAGNIFIED = { width: 270, height: 180 }
/** Sampled parts of the scene that are kept, of frames and of what live view and magnifier show. */
const KEPT = 2

/** A picture to be taken: JSON, so that any thread or process can take it. */
export interface PictureOrder {
  setup: CameraSetup
  view: View
  taking: Taking
  /** Plane that the scene is sampled for; the same for all pictures of a series. */
  reference_mm: number
}

/** What has to be known of a picture before it is ordered, so that the scene can be made ready for it. */
export type Prospect = Pick<PictureOrder, 'setup' | 'reference_mm'> & { window?: Rectangle }

/** A part of the scene on its way to being sampled. */
interface Part {
  work: Sampling<SampledScene>
  sampled?: SampledScene
}

/** Takes pictures of one scene. It samples what a picture needs once and keeps it for the next. */
export class SceneDarkroom {
  private readonly scene
  private readonly frames = new Map<string, Part>()
  private readonly looks = new Map<string, Part>()

  constructor(name: string, seed: number) {
    this.scene = sceneOf(name, seed)
  }

  take({ setup, view, taking, reference_mm }: PictureOrder): Picture {
    const part = this.part({ setup, reference_mm, window: taking.window })
    part.sampled ??= finish(part.work)
    return takePicture(part.sampled, this.scene, setup, view, taking)
  }

  /** Does a little, some hundredths of a second, of what such pictures need; false when nothing is left to do. */
  prepare(prospect: Prospect): boolean {
    const part = this.part(prospect)
    if (part.sampled) return false
    const { done, value } = part.work.next()
    if (done) part.sampled = value
    return !done
  }

  private part({ setup, reference_mm, window }: Prospect): Part {
    const key = JSON.stringify([setup.width_px, setup.magnification, Math.min(setup.fNumber, OPEN_F), window])
    // Looking here and there must not make the darkroom forget what frames are drawn from.
    const kept = setup.width_px > LIVE_WIDTH_px && (!window || window.width === setup.width_px) ? this.frames : this.looks
    const known = kept.get(key)
    kept.delete(key)
    const still = { ...setup, mover: 'ring' as const }
    const part = known ?? { work: sampling(this.scene, setup, viewAt(still, reference_mm, reference_mm, IDENTITY), { window }) }
    kept.set(key, part)
    // The oldest goes first: a Map keeps the order in which things were put in.
    if (kept.size > KEPT) kept.delete(kept.keys().next().value!)
    return part
  }
}

/** The order for a live-view picture: the whole frame in small, or the spot at the size of the picture's own pixels. */
export function livePicture({ setup, view, taking, reference_mm }: PictureOrder, { spot, magnifier }: Look): PictureOrder {
  if (magnifier) {
    const width = Math.min(MAGNIFIED.width, setup.width_px)
    const height = Math.min(MAGNIFIED.height, setup.height_px)
    const inside = (at: number, size: number, whole: number) => Math.min(whole - size, Math.max(0, Math.round(at * whole - size / 2)))
    const window = { x: inside(spot.x, width, setup.width_px), y: inside(spot.y, height, setup.height_px), width, height }
    return { setup, view, taking: { ...taking, window }, reference_mm }
  }
  const part = LIVE_WIDTH_px / setup.width_px
  const small = { ...setup, width_px: LIVE_WIDTH_px, height_px: Math.round(setup.height_px * part) }
  const jitter = { ...view.jitter, dx_px: view.jitter.dx_px * part, dy_px: view.jitter.dy_px * part }
  const shown = { ...view, jitter, pitch_mm: view.pitch_mm / part, widest_px: view.widest_px * part }
  return { setup: small, view: shown, taking: { ...taking, strike: { ...taking.strike, shake_px: taking.strike.shake_px * part } }, reference_mm }
}
