import { normalShare } from '../statistics'
import { spreadOf, together } from './together'

/** A measured stride: what step number gave it, with which lens and at which aperture. */
export interface StepCalibration {
  lens: string
  fNumber: number
  magnification: number
  step: number
  stride_mm: number
  /** How much the strides of that run differed (standard deviation); unknown where absent. */
  spread_mm?: number
}

/**
 * How a focus drive turns a step number into a way: by the same turn of the drive at every aperture, or by more of it the
 * smaller the aperture. Which of the two a body does stands in no manual.
 */
export type DriveModel = 'fixed' | 'byAperture'

/** What all runs together tell of one step of a drive, at the aperture and the size that are asked for. */
export interface KnownStep {
  /** The way of one step on the subject, in mm: the mean, or the longest where runs do not agree or nobody knows the model. */
  step_mm: number
  /** By how much a single stride differs, as a part of it: within runs and between them. Undefined where no run tells. */
  spread?: number
  runs: number
  /** Which model the data tell; undefined where they were all taken at one aperture, or fit both alike. */
  model?: DriveModel
  /** The shortest and the longest step that runs tell where they do not agree: then nothing is averaged. */
  conflict?: { least_mm: number; most_mm: number }
  /** The aperture of the run that counts most, where it is not the one asked for. */
  measuredAt?: number
}

/** A magnification other than the measured one is trusted within this factor. */
const NEAR = 1.25
/** Apertures are the same within this factor, and tell the models apart from this one on. */
const SAME_APERTURE = 1.06
const APART = 1.35
/** A model is told where what it leaves is at most this part of what the other one leaves. */
const CLEARER = 0.5
/** Runs agree where their steps differ by no more than this, as a part. */
const AGREE = 0.15

const ratio = (a: number, b: number) => Math.max(a / b, b / a)

/**
 * The way of one step at an aperture and a magnification, from every run of this lens at about this magnification; undefined
 * where there is none. The step follows the drive at other magnifications as the depth of field does (m²), where that is longer.
 */
export function knownStep(calibrations: StepCalibration[], now: { lens: string; fNumber: number; magnification: number }): KnownStep | undefined {
  const runs = calibrations.filter(({ lens, magnification }) => lens === now.lens && ratio(magnification, now.magnification) <= NEAR)
  if (runs.length === 0) return undefined
  const steps = runs.map(({ stride_mm, step, magnification }) => (stride_mm / step) * Math.max(1, (magnification / now.magnification) ** 2))
  const by: Record<DriveModel, number[]> = { fixed: steps, byAperture: steps.map((step, k) => (step * now.fNumber) / runs[k].fNumber) }
  const model = toldModel(runs, by)
  const here = runs.some(({ fNumber }) => ratio(fNumber, now.fNumber) < SAME_APERTURE)
  const nearest = runs.reduce((best, run) => (ratio(run.fNumber, now.fNumber) < ratio(best.fNumber, now.fNumber) ? run : best)).fNumber
  // Where the model is not known, runs at this aperture say most; else each run counts by the model that gives the longer step.
  const values = model
    ? by[model]
    : here
      ? steps.filter((_, k) => ratio(runs[k].fNumber, now.fNumber) < SAME_APERTURE)
      : steps.flatMap((step, k) => (ratio(runs[k].fNumber, nearest) < SAME_APERTURE ? [Math.max(step, by.byAperture[k])] : []))
  const { value, conflict, spread } = together(values, runs, AGREE)
  return {
    step_mm: value,
    ...(spread !== undefined && { spread }),
    runs: values.length,
    ...(model && { model }),
    ...(conflict && { conflict: { least_mm: conflict.least, most_mm: conflict.most } }),
    ...(!model && !here && { measuredAt: nearest }),
  }
}

/** The model that the steps of runs at several apertures speak for; by the spread of what each of them makes of the runs. */
function toldModel(runs: StepCalibration[], by: Record<DriveModel, number[]>): DriveModel | undefined {
  const apertures = runs.map(({ fNumber }) => fNumber)
  if (Math.max(...apertures) / Math.min(...apertures) < APART) return undefined
  const [fixed, byAperture] = [by.fixed, by.byAperture].map(spreadOf)
  if (fixed < CLEARER * byAperture) return 'fixed'
  return byAperture < CLEARER * fixed ? 'byAperture' : undefined
}

/**
 * The risk that somewhere in a series two slices do not touch, 0 … 1: strides are spread normally about their mean, each on its own.
 */
export function gapRisk(stride_mm: number, spread: number, slice_mm: number, frames: number): number {
  const sigma_mm = spread * stride_mm
  if (sigma_mm <= 0) return stride_mm > slice_mm ? 1 : 0
  return 1 - normalShare((slice_mm - stride_mm) / sigma_mm) ** Math.max(1, frames - 1)
}
