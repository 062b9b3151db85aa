import type { BlurStep } from '../learn/slices'
import { defocusBlur_mm } from '../optics'
import { deviation, mean } from '../statistics'

/** A run as the logbook tells of it. What is not known is null. */
export interface LogEntry {
  run: number
  shoot: number
  /** The run's number within its shoot. */
  number: number
  title: string
  /** When it was begun, ISO 8601. */
  at: string
  source: 'simulated' | 'imported'
  body: string | null
  lens: string | null
  fNumber: number | null
  magnification: number | null
  mover: string | null
  planned: { frames: number; stride_mm: number; overlap: number } | null
  frames: number
  used: number
  /** From frame to frame: by where the devices say their focus was, or else by how their scale changed. */
  stride: Stride | null
  /** Depth of field by how fast the frames blur, beside what the formula says of the plan; null where they do not tell. */
  depthOfField: FoundDepth | null
  /** Seconds from frame to frame. */
  frame_s: number | null
  /** How far the exposure strayed. */
  exposure_ev: number | null
  /** Frames that shook or went wrong, that repeated another, and gaps. */
  flawed: number
  idle: number
  gaps: number
  /** Whether both ends of the subject were reached; null where it was not checked. */
  complete: boolean | null
  /** Share of the picture that moved on its own, at the most. */
  moved_percent: number | null
  /** The fewest frames that would have done. */
  needed: { frames: number; every: number } | null
  renders: number
  /** The newest render. */
  render: number | null
  style: string | null
  delivered: number
  bytes: number
  stars: number
  note: string
  tags: string[]
}

export interface Stride {
  mean_mm: number
  /** Standard deviation. */
  spread_mm: number
  /** Else it is only the most that it may be: how it was measured tells no more. */
  spreadKnown: boolean
  steps: number
  by: 'position' | 'perspective' | 'breathing'
}

export interface FoundDepth {
  /** As found by as reckoned. */
  ratio: number
  found_mm: number
  /** What the ratio may be off by, as a part of it: one standard deviation. */
  spread: number
}

/**
 * The depth of field that a run found: blur grows by m² / N_w for each mm away from the focus (Kingslake), and where it grows more slowly slices are
 * deeper. @param magnifications at both ends of the series: by a ring they differ, and their product counts.
 */
export function depthFound(
  blurStep: BlurStep,
  stride_mm: number,
  { depthOfField_mm, workingFNumber }: { depthOfField_mm: number; workingFNumber: number },
  [near, far]: [number, number],
  sensorWidth_mm: number,
): FoundDepth {
  const reckoned_mm = defocusBlur_mm(stride_mm, Math.sqrt(near * far), workingFNumber)
  const ratio = reckoned_mm / (blurStep.ofWidth * sensorWidth_mm)
  return { ratio, found_mm: depthOfField_mm * ratio, spread: blurStep.spread }
}

/** The stride of frames whose planes of focus are known, in the order in which they lie; null below two steps. */
export function strideOf(positions_mm: number[]): Stride | null {
  if (positions_mm.length < 3) return null
  const places = [...positions_mm].sort((a, b) => a - b)
  const steps = places.slice(1).map((place, k) => place - places[k])
  return { mean_mm: mean(steps), spread_mm: deviation(steps), spreadKnown: true, steps: steps.length, by: 'position' }
}

/** The overlap that a plan needed, as far as fewer frames tell: below 0 where slices did not even have to touch; null where it is not known. */
export function neededOverlap({ planned, needed }: Pick<LogEntry, 'planned' | 'needed'>): number | null {
  return planned && needed ? 1 - needed.every * (1 - planned.overlap) : null
}
