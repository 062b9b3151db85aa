import { geometricDepth_mm, workingFNumber } from '../optics'
import { randomStream, SimulatedSeries, type SeriesRequest } from '../simulate'
import { percentOf, type Exercise, type Level } from './exercise'
import { calmSeries, cameraOn, evenly, PICTURE, SUBJECTS } from './scenes'
import { say } from './words'

export interface NearAndFarTask {
  /** Live view: a picture at each of these planes of focus, as the drive steps through them. */
  request: SeriesRequest
  /** How deep one slice is. */
  slice_mm: number
}

/** Steps of the drive, as indices of the request's planes. */
export interface NearAndFarAnswer {
  near: number
  far: number
}

const STEPS = 121
/** The allowed blur of a picture this small, in its px. */
const ALLOWED_px = 1.5
const F_NUMBERS: Record<Level, number> = { 1: 8, 2: 5.6, 3: 4 }
/** Noise of a dim view: photons that fill a pixel. */
const WELLS: Record<Level, number> = { 1: 30_000, 2: 3000, 3: 600 }

/** Find the planes where the subject begins and ends, with live view and magnifier. */
export const nearAndFar: Exercise<NearAndFarTask, NearAndFarAnswer> = {
  title: 'Near and far by eye',
  aim: 'Find where the subject begins and ends with live view and the magnifier. Every series starts with this.',
  pose(seed, level) {
    const random = randomStream(seed)
    const subject = SUBJECTS[Math.floor(random() * SUBJECTS.length)]
    const camera = cameraOn(subject, F_NUMBERS[level], 'ring')
    // How far the drive reaches beyond either end tells nothing of where that end is.
    const [before, after] = [0.15 + 0.3 * random(), 0.15 + 0.3 * random()]
    const positions_mm = evenly(-before * subject.depth_mm, (1 + after) * subject.depth_mm, STEPS)
    const allowed_mm = (ALLOWED_px * camera.sensorWidth_mm) / camera.width_px
    const slice_mm = geometricDepth_mm(allowed_mm, workingFNumber(camera.fNumber, subject.magnification), subject.magnification)
    return { request: { ...calmSeries(subject, seed, camera, positions_mm), fullWell: WELLS[level] }, slice_mm }
  },
  mark(task, answer) {
    const { near_mm, far_mm } = extentOf(task.request)
    const [from_mm, to_mm] = [answer.near, answer.far].map((step) => task.request.positions_mm[step])
    const near = endMark((from_mm - near_mm) / task.slice_mm)
    const far = endMark((far_mm - to_mm) / task.slice_mm)
    const said = [
      say('practice.end', { end: 'near', ...near }),
      say('practice.end', { end: 'far', ...far }),
      ...(from_mm >= to_mm ? [say('practice.turned')] : []),
    ]
    return { percent: from_mm >= to_mm ? 0 : percentOf(100 - near.cost - far.cost), said }
  },
}

/** The first slice may begin so far before the subject: a frame of safety that everybody takes. */
const SAFETY_slices = 1
/** What a missed slice costs: that sharpness is gone. A wasted one costs time only. */
const MISSED_cost = 30
const WASTED_cost = 7
/** By half a slice nobody is wrong: the slice itself reaches that far. */
const HALF = 0.5

/** `beyond`: so many slices too far inside the subject; less than 0: before it. */
function endMark(beyond: number): { missed: number; wasted: number; cost: number } {
  const missed = Math.max(0, beyond - HALF)
  const wasted = Math.max(0, -beyond - SAFETY_slices)
  return { missed, wasted, cost: Math.min(50, MISSED_cost * missed + WASTED_cost * wasted) }
}

/** The truth is read from a picture so wide: ends do not hang on single pixels. */
const DEPTH_WIDTH_px = 160
const OUTERMOST = 0.01

/** The truth of the task at hand: it is asked for at the mark and for the drawing, and takes a few seconds to find. */
let known: { key: string; extent: { near_mm: number; far_mm: number } } | undefined

/** Where what is in the picture begins and ends: all but one in a hundred of its places lie within. */
export function extentOf(request: SeriesRequest): { near_mm: number; far_mm: number } {
  const key = JSON.stringify(request)
  if (known?.key === key) return known.extent
  const scale = DEPTH_WIDTH_px / PICTURE.width_px
  const camera = { ...request.camera, width_px: DEPTH_WIDTH_px, height_px: Math.round(PICTURE.height_px * scale) }
  const depths = new SimulatedSeries({ ...request, camera }).truthDepth_mm().data.slice().sort()
  const at = (part: number) => depths[Math.round(part * (depths.length - 1))]
  known = { key, extent: { near_mm: at(OUTERMOST), far_mm: at(1 - OUTERMOST) } }
  return known.extent
}
