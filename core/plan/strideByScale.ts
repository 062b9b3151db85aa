import { movesCamera } from '../movers'
import { imageDistance_mm, subjectDistance_mm } from '../optics'
import { effectiveFocalLength_mm, pupilDistance_mm, workingDistance_mm } from './framing'
import type { LensOptics, PlanRequest } from './request'

/** How far the focus went from frame to frame, by how the picture's scale changed. */
export interface ScaledStride {
  /** The mean step. */
  mean_mm: number
  /** Standard deviation of single steps. */
  spread_mm: number
  /** Whether the steps differ by more than registration's own errors; else the spread is only the most that it may be. */
  spreadKnown: boolean
  steps: number
  /** The frame that the first of these steps begins at. */
  first: number
  /** Planes of focus, mm from the first frame's, away from the camera. */
  positions_mm: number[]
  /** What the scale tells it by: how near things grow as the camera nears, or how the lens breathes. */
  by: 'perspective' | 'breathing'
}

/** A frame as its fuse tells of it. */
export interface ScaledFrame {
  /** Against any one of them. */
  scale: number
  /** How much of the fused picture it gave; of each as much as of others where that is not known. */
  share_percent?: number
  /** See `ReportFrame`; where no frame has it, it is not known how far the scales can be trusted. */
  scale_gap?: number
}

/** So few frames tell no stride. */
const LEAST_FRAMES = 4
/** Below this change of scale over the series registration's own errors are too large beside it. */
const LEAST_CHANGE = 0.004
/** A frame that gave less than this part of what one gives on average had nothing in focus. */
const LEAST_SHARE = 0.15
/** Part of the planes' spread that an even stride has to explain: else something else moved. */
const FITS = 0.9
/** Steps that differ by so many times what two ways of measuring them disagree by differ indeed. */
const ABOVE_GAPS = 1.5
/** A step's own error beside that disagreement, which has those of three measurements. */
const OF_GAPS = 0.5
/** Fewer of those say nothing. */
const LEAST_GAPS = 3

/**
 * The stride of a run whose frames are scaled so against any one of them, in focus order. On a rail the plane of focus stays at one
 * distance d from the entrance pupil, and what lies there grows by 1/d for each mm (d = f (1/m + 1/P), Ray). By the ring the scale goes
 * with the image distance to the power of how the lens breathes, 1 for a thin one: 1/f = 1/u + 1/v. Frames before and behind the subject
 * do not count: all they show lies at another distance than they are focused on. Undefined where the scale hardly changes, goes to and fro,
 * or the optics do not say what it means.
 */
export function strideByScale(frames: ScaledFrame[], { optics, mover, subject }: PlanRequest): ScaledStride | undefined {
  const scales = frames.map(({ scale }) => scale)
  // Of a range the steps are even in one over the distance, and no stride in mm.
  if (optics.kind !== 'lens' || subject.kind === 'range' || scales.length < LEAST_FRAMES) return undefined
  if (Math.max(...scales) / Math.min(...scales) - 1 < LEAST_CHANGE) return undefined
  const onRail = movesCamera(mover.kind)
  const { magnification, breathing = 1 } = optics
  if (magnification === undefined) return undefined
  const ratios = scales.map((scale) => scale / scales[0])
  const positions_mm = onRail
    ? ratios.map((ratio) => pupilDistance_mm(optics, magnification) * Math.log(ratio))
    : focusedBy(ratios, breathing, optics, magnification)
  if (!positions_mm.every(Number.isFinite)) return undefined
  const [first, behind] = inFocus(frames)
  const telling = positions_mm.slice(first, behind)
  if (telling.length < LEAST_FRAMES) return undefined
  const mean_mm = (telling.at(-1)! - telling[0]) / (telling.length - 1)
  if (!(mean_mm > 0) || straightness(telling) < FITS) return undefined
  const steps = telling.slice(1).map((place, k) => place - telling[k])
  const asRead_mm = Math.sqrt(steps.reduce((sum, step) => sum + (step - mean_mm) ** 2, 0) / (steps.length - 1))
  const gaps = frames.slice(first + 2, behind).flatMap(({ scale_gap }) => scale_gap ?? [])
  const logOfStep = Math.abs(Math.log(scales[behind - 1] / scales[first])) / steps.length
  const gap_mm = (rootMeanSquare(gaps) / logOfStep) * mean_mm
  const spreadKnown = gaps.length >= LEAST_GAPS && asRead_mm >= ABOVE_GAPS * gap_mm
  const spread_mm = spreadKnown || gaps.length === 0 ? asRead_mm : Math.hypot(asRead_mm, OF_GAPS * gap_mm)
  return { mean_mm, spread_mm, spreadKnown, steps: steps.length, first, positions_mm, by: onRail ? 'perspective' : 'breathing' }
}

const rootMeanSquare = (values: number[]) => Math.sqrt(values.reduce((sum, value) => sum + value ** 2, 0) / Math.max(1, values.length))

/** From the first frame that had something in focus to behind the last. */
function inFocus(frames: ScaledFrame[]): [number, number] {
  const least = (LEAST_SHARE * 100) / frames.length
  const has = ({ share_percent = 100 }: ScaledFrame) => share_percent >= least
  return [frames.findIndex(has), frames.findLastIndex(has) + 1]
}

/** By the ring: the first frame is focused on the near edge, as planned. */
function focusedBy(ratios: number[], times: number, optics: LensOptics, magnification: number): number[] {
  const focalLength_mm = effectiveFocalLength_mm(optics, magnification)
  const image_mm = imageDistance_mm(focalLength_mm, workingDistance_mm(optics, magnification))
  const distances = ratios.map((ratio) => distanceOf(focalLength_mm, image_mm * ratio ** (1 / times)))
  return distances.map((distance) => distance - distances[0])
}

/** Object distance of an image distance, in mm: the magnification is v/f − 1. */
const distanceOf = (focalLength_mm: number, image_mm: number) => subjectDistance_mm(focalLength_mm, image_mm / focalLength_mm - 1)

/** The part of the spread of evenly numbered values that a straight line explains. */
function straightness(values: number[]): number {
  const middle = (values.length - 1) / 2
  const mean = values.reduce((a, b) => a + b) / values.length
  let [xx, xy, yy] = [0, 0, 0]
  values.forEach((value, k) => {
    xx += (k - middle) ** 2
    xy += (k - middle) * (value - mean)
    yy += (value - mean) ** 2
  })
  return yy > 0 ? xy ** 2 / (xx * yy) : 0
}
