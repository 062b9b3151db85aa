import { gapRisk, knownStep, type KnownStep, type StepCalibration } from '../../learn'
import { refusal, say, type Sentence } from '../../words'

/** The body's own bracketing: a step number without a unit, and how many frames it takes in one go. */
export interface Bracketing {
  /** Step numbers run from 1 to this. */
  steps: number
  mostFrames: number
}

export interface StepAdvice extends Sentence {
  step: number
  /** The stride that this step number should give; undefined where nothing was ever measured. */
  stride_mm?: number
  calibrated: boolean
}

/** A plan risks at most so much that two of its slices do not touch. */
const MOST_RISK = 0.01

/**
 * The largest step number whose stride is not above the one wanted, and that leaves no gap where it is known how much strides
 * differ: smaller than wanted, if need be. What runs tell of the drive is believed ({@link knownStep}); where they do not tell
 * whether it scales its steps by the aperture, the longer stride is, so that slices do not part. Without a run the suggestion is
 * a fifth of the range.
 * @throws Refusal where even step 1 is too long.
 */
export function stepFor(
  stride_mm: number,
  { steps }: Bracketing,
  calibrations: StepCalibration[],
  now: { lens: string; fNumber: number; magnification: number },
  series?: { slice_mm: number; frames: number },
): StepAdvice {
  const known = knownStep(calibrations, now)
  if (!known) {
    const step = Math.max(1, Math.round(steps / 5))
    return { step, calibrated: false, ...say('step.guess', { step, steps }) }
  }
  const risk = (step: number) => {
    const long_mm = known.step_mm * step
    return series && known.spread !== undefined
      ? gapRisk(long_mm, known.spread, series.slice_mm, Math.ceil((series.frames * stride_mm) / long_mm))
      : undefined
  }
  let step = Math.min(steps, Math.floor(stride_mm / known.step_mm + 1e-9))
  while (step > 1 && (risk(step) ?? 0) > MOST_RISK) step--
  if (step < 1) {
    throw refusal('plan.stepTooLarge', { step_mm: known.step_mm.toPrecision(2), wanted_mm: stride_mm.toPrecision(2) }, 'mover.step')
  }
  return { step, stride_mm: known.step_mm * step, calibrated: true, ...advice(known, step, steps, risk(step)) }
}

function advice(known: KnownStep, step: number, steps: number, risk: number | undefined): Sentence {
  const { runs, spread, model, conflict, measuredAt, step_mm } = known
  const facts = { step, steps, stride_mm: step_mm * step, runs, spread, risk, model }
  if (conflict) return say('step.conflict', { ...facts, least_mm: conflict.least_mm * step, most_mm: conflict.most_mm * step })
  return measuredAt === undefined ? say('step.measured', facts) : say('step.reckoned', { ...facts, measuredAt })
}

/**
 * How a series is chained where the body takes fewer frames in one go: the length of each part. Every part but the
 * first takes the last frame of the one before again, so that a focus nudged between them leaves no gap.
 */
export function chainedParts(frameCount: number, mostFrames: number): number[] {
  if (frameCount <= mostFrames) return [frameCount]
  if (mostFrames < 2) throw refusal('plan.noChain', undefined, 'mover.mostFrames')
  const parts = [mostFrames]
  for (let left = frameCount - mostFrames; left > 0; left -= mostFrames - 1) parts.push(Math.min(left, mostFrames - 1) + 1)
  return parts
}
