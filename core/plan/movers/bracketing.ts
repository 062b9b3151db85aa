import { refusal, say, type Sentence } from '../../words'

/** The body's own bracketing: a step number without a unit, and how many frames it takes in one go. */
export interface Bracketing {
  /** Step numbers run from 1 to this. */
  steps: number
  mostFrames: number
}

/** A measured stride: what step number gave it, with which lens and at which aperture. */
export interface StepCalibration {
  lens: string
  fNumber: number
  magnification: number
  step: number
  stride_mm: number
}

export interface StepAdvice extends Sentence {
  step: number
  /** The stride that this step number should give; undefined where nothing was ever measured. */
  stride_mm?: number
  calibrated: boolean
}

/** The step number for a magnification other than the calibrated one is trusted within this factor. */
const NEAR = 1.25

/**
 * The largest step number whose stride is not above the one wanted. A camera may drive its focus by fixed steps or
 * scale them by the aperture, and may do either to the magnification; of these models the one that gives the longer
 * stride is believed, so that slices do not part. Without a calibration the suggestion is a fifth of the range.
 * @throws Refusal where even step 1 is too long.
 */
export function stepFor(
  stride_mm: number,
  { steps }: Bracketing,
  calibrations: StepCalibration[],
  now: { lens: string; fNumber: number; magnification: number },
): StepAdvice {
  const known = calibrations
    .filter(({ lens, magnification }) => lens === now.lens && ratio(magnification, now.magnification) <= NEAR)
    .sort((a, b) => ratio(a.fNumber, now.fNumber) - ratio(b.fNumber, now.fNumber))[0]
  if (!known) {
    const step = Math.max(1, Math.round(steps / 5))
    return {
      step,
      calibrated: false,
      ...say('step.guess', { step, steps }),
    }
  }
  const perStep = longestStride_mm(known, now) / known.step
  const step = Math.min(steps, Math.floor(stride_mm / perStep + 1e-9))
  if (step < 1) {
    throw refusal('plan.stepTooLarge', { step_mm: perStep.toPrecision(2), wanted_mm: stride_mm.toPrecision(2) }, 'mover.step')
  }
  const moved = { step, steps, stride_mm: perStep * step }
  const asMeasured = ratio(known.fNumber, now.fNumber) < 1.06
  return {
    step,
    stride_mm: perStep * step,
    calibrated: true,
    ...(asMeasured ? say('step.measured', moved) : say('step.reckoned', { ...moved, measuredAt: known.fNumber })),
  }
}

/** Stride of the calibrated step number here, by the model that gives the longer one. */
function longestStride_mm(known: StepCalibration, now: { fNumber: number; magnification: number }): number {
  const byAperture = Math.max(1, now.fNumber / known.fNumber)
  const byScale = Math.max(1, (known.magnification / now.magnification) ** 2)
  return known.stride_mm * byAperture * byScale
}

function ratio(a: number, b: number): number {
  return Math.max(a / b, b / a)
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
