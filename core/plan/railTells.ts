import { movesCamera } from '../movers'
import { deviation, mean } from '../statistics'
import type { LensOptics, PlanRequest } from './request'

/** Frames whose places on the rail are known, and how large things are pictured in each, against any one of them. */
export interface RailFrame {
  position_mm: number
  scale: number
}

export interface MeasuredPupil {
  /** Exit over entrance pupil diameter. */
  ratio: number
  /** What it may be off by: one standard deviation. */
  spread: number
}

const LEAST_FRAMES = 6
/** A ratio that may be off by more than this part tells nothing. */
const MOST_SPREAD = 0.1
/** Beyond these it is the magnification that is wrong, or something moved. */
const LIKELY: [number, number] = [0.2, 5]

/**
 * The pupil ratio that a run on a rail tells, where its places are known: what lies in the plane of focus grows by 1/d for each mm that the camera
 * nears, d = f (1/m + 1/P) from the entrance pupil (Ray, asymmetrical lenses). Undefined where the frames do not tell it well enough.
 */
export function measuredPupil(frames: RailFrame[], { optics, mover, subject }: PlanRequest): MeasuredPupil | undefined {
  if (optics.kind !== 'lens' || optics.attachment || !optics.magnification || !movesCamera(mover.kind) || subject.kind !== 'depth') return undefined
  if (frames.length < LEAST_FRAMES) return undefined
  const [at, logs] = [frames.map(({ position_mm }) => position_mm), frames.map(({ scale }) => Math.log(scale))]
  const [middle, centre] = [mean(at), mean(logs)]
  const square = at.reduce((sum, x) => sum + (x - middle) ** 2, 0)
  const slope = at.reduce((sum, x, k) => sum + (x - middle) * (logs[k] - centre), 0) / square
  const left = logs.reduce((sum, y, k) => sum + (y - centre - slope * (at[k] - middle)) ** 2, 0) / (frames.length - 2)
  const ratioAt = (growth: number) => ratioFrom(1 / growth, optics)
  const ratio = ratioAt(slope)
  const spread = Math.abs(ratioAt(slope + Math.sqrt(left / square)) - ratio)
  return ratio > LIKELY[0] && ratio < LIKELY[1] && spread / ratio < MOST_SPREAD ? { ratio, spread } : undefined
}

/** The pupil ratio by the distance of the pupil from the plane of focus: `pupilDistance_mm` read the other way round. */
const ratioFrom = (distance_mm: number, { focalLength_mm, magnification }: LensOptics) => 1 / (distance_mm / focalLength_mm - 1 / magnification!)

/** A first step shorter than the others by so many times what they differ is no chance. */
const CERTAIN = 4
const LEAST_STEPS = 6

/**
 * The play of a rail's screw, as a run tells it: the first step falls short by it where the screw was not brought up from the same side. Undefined
 * where it does not stand out. @param positions_mm planes of focus in the order in which they were shot.
 */
export function playOf(positions_mm: number[]): number | undefined {
  const [first, ...others] = positions_mm.slice(1).map((place, k) => Math.abs(place - positions_mm[k]))
  if (others.length < LEAST_STEPS - 1) return undefined
  const short_mm = mean(others) - first
  return short_mm > CERTAIN * deviation(others) && short_mm > 0 ? short_mm : undefined
}
