import Joi from 'joi'
import { BAR_pitches, LEAST_pitch_mm, MOST_pitch_mm, type TargetFacts } from '@/core/learn/target'
import { positive } from './quantities'

/** What is known of a printed sheet and the camera: `target.json`. */
export interface TargetFile extends TargetFacts {
  /** How long the bar along the sheet really is: printers scale. */
  bar_mm?: number
}

const fNumber = positive('the f-number').min(0.7).max(128)

export const targetFactsSchema = Joi.object<TargetFile>({
  pitch_mm: positive('the distance of the dots in mm').max(100).required(),
  bar_mm: positive('the length of the printed bar in mm').max(5000),
  sensorWidth_mm: positive('the sensor width in mm').max(500),
  fNumber,
  apertures: Joi.object().pattern(Joi.string(), fNumber),
  pupilRatio: positive('the pupil ratio').max(20),
  allowedBlur_px: positive('the allowed blur in px').max(100),
})

export const PAPER_SIZES = ['A4', 'A5', 'LETTER'] as const
export type PaperSize = (typeof PAPER_SIZES)[number]

/** A sheet to be printed. */
export interface SheetRequest {
  pitch_mm: number
  paper: PaperSize
}

export const sheetRequestSchema = Joi.object<SheetRequest>({
  pitch_mm: Joi.number().min(LEAST_pitch_mm).max(MOST_pitch_mm).required().label('Distance of the dots in mm'),
  paper: Joi.valid(...PAPER_SIZES).default('A4'),
})

/** The facts with the dots as far apart as the measured bar says. */
export const asPrinted = ({ bar_mm, ...facts }: TargetFile): TargetFacts => ({ ...facts, ...(bar_mm && { pitch_mm: bar_mm / BAR_pitches }) })
