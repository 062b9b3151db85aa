import { planSeries, type PlanRequest } from '../plan'
import { thirdStops } from '../optics'
import { randomStream, type SeriesRequest } from '../simulate'
import { percentOf, type Exercise, type Level } from './exercise'
import { calmSeries, cameraOn, evenly, PICTURE, SUBJECTS, type Subject } from './scenes'
import { say } from './words'

export interface ChooseTask {
  subject: Subject
  seed: number
  /** The plan with the widest aperture; aperture, stride and count are what is to be chosen. */
  request: PlanRequest & { subject: { kind: 'depth'; depth_mm: number } }
  /** Marked apertures to choose from. */
  fNumbers: number[]
  /** What the picture is for. */
  print_mm: number
}

export interface ChooseAnswer {
  fNumber: number
  stride_mm: number
  frames: number
}

const PRINTS_mm: Record<Level, number[]> = { 1: [200], 2: [150, 300], 3: [120, 300, 600] }
/** An overlap that leaves room for a step that comes out a little long. */
const OVERLAP = 0.2
const VIEWING_mm = 350

/** A subject, a print, a camera: choose aperture, step and frames. */
export const choose: Exercise<ChooseTask, ChooseAnswer> = {
  title: 'Choose',
  aim: 'Choose aperture, step and number of frames for a subject and a print: no gap, no frame too many, no softness by diffraction.',
  pose(seed, level) {
    const random = randomStream(seed)
    const subject = SUBJECTS[Math.floor(random() * SUBJECTS.length)]
    const print_mm = PRINTS_mm[level][Math.floor(random() * PRINTS_mm[level].length)]
    const fNumbers = thirdStops(2.8, 22).filter((_, k) => level === 3 || k % 3 === 0)
    const request: ChooseTask['request'] = {
      camera: { sensorWidth_mm: 36, sensorHeight_mm: 24, pixelsWide: 6000, rawSize_MB: 40 },
      optics: { kind: 'lens', focalLength_mm: 100, fNumber: fNumbers[0], pupilRatio: 1, magnification: subject.magnification },
      sharpness: { kind: 'print', width_mm: print_mm, viewingDistance_mm: VIEWING_mm },
      diffraction: true,
      wavelength_nm: 550,
      subject: { kind: 'depth', depth_mm: subject.depth_mm },
      mover: { kind: 'rail', resolution_mm: 0.01 },
      overlap: OVERLAP,
      leadIn_slices: 0,
      runOut_slices: 0,
      timing: { move_s: 1, filter_s: 0, settle_s: 2, delay_s: 0, exposure_s: 0.1, exposuresPerFrame: 1, interval_s: 0, recycling_s: 1, write_s: 0 },
    }
    return { subject, seed, request, fNumbers, print_mm }
  },
  mark(task, answer) {
    const best = bestOf(task)
    const depth_mm = task.subject.depth_mm
    const plan = planned(task, answer.fNumber)
    if (!plan) return { percent: 0, said: [say('practice.choose.diffraction', { fNumber: answer.fNumber, best: best.fNumber }), bestSaid(best)] }
    const slice_mm = plan.depthOfField_mm
    // What no slice holds: between neighbours that do not touch, and beyond the last.
    const between_mm = Math.max(0, answer.stride_mm - slice_mm) * Math.max(0, answer.frames - 1)
    const held_mm = (answer.frames - 1) * answer.stride_mm + slice_mm
    const beyond_mm = Math.max(0, depth_mm - held_mm)
    const unsharp_percent = Math.min(100, (100 * (Math.min(between_mm, depth_mm) + beyond_mm)) / depth_mm)
    const spare = Math.max(0, answer.frames - best.frames)
    const percent = percentOf(100 - 1.5 * unsharp_percent - Math.max(0, (60 * (spare - 1)) / best.frames))
    return {
      percent,
      said: [
        ...(between_mm > 0 ? [say('practice.choose.gaps', { stride_mm: answer.stride_mm, slice_mm })] : []),
        ...(beyond_mm > 0.02 * depth_mm ? [say('practice.choose.short', { held_mm, depth_mm })] : []),
        ...(unsharp_percent < 2 ? [say('practice.choose.covered', { depth_mm })] : []),
        ...(spare > 1 ? [say('practice.choose.spare', { spare, seconds: spare * secondsAFrame(task) })] : []),
        bestSaid(best),
      ],
    }
  },
}

const bestSaid = (best: ReturnType<typeof bestOf>) => say('practice.choose.best', best)

const secondsAFrame = ({ request: { timing } }: ChooseTask) => timing.move_s + timing.settle_s + timing.exposure_s + timing.recycling_s

/** The plan at an aperture; undefined where diffraction alone is more than the print forgives. */
function planned({ request }: ChooseTask, fNumber: number) {
  const plan = planSeries({ ...request, optics: { ...request.optics, fNumber } as PlanRequest['optics'] })
  return plan.diffraction_mm < plan.coc_mm ? plan : undefined
}

/** The marked aperture that needs the fewest frames for this print. */
export function bestOf(task: ChooseTask): { fNumber: number; stride_mm: number; frames: number } {
  const plans = task.fNumbers.flatMap((fNumber) => {
    const plan = planned(task, fNumber)
    return plan ? [{ fNumber, stride_mm: plan.stride_mm, frames: plan.frameCount }] : []
  })
  return plans.reduce((best, plan) => (plan.frames < best.frames ? plan : best))
}

/** So many frames are shot to look at; a series of more is looked at as far as it goes. */
const MOST_FRAMES = 60
/** The allowed blur in px of the part that is looked at: it is seen at 100 %. */
const BLUR_px = 1.5

/** The series that an answer would shoot, as a part at 100 % from the middle of the subject. */
export function seriesOf(task: ChooseTask, { fNumber, stride_mm, frames }: ChooseAnswer): SeriesRequest {
  const coc_mm = planned(task, fNumber)?.coc_mm ?? planned(task, task.fNumbers[0])!.coc_mm
  const camera = { ...cameraOn(task.subject, fNumber, 'rail'), sensorWidth_mm: (PICTURE.width_px * coc_mm) / BLUR_px }
  const count = Math.min(MOST_FRAMES, frames)
  return calmSeries(task.subject, task.seed, camera, evenly(0, (count - 1) * stride_mm, count))
}
