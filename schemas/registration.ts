import Joi from 'joi'
import type { BendsFile } from '@/core/formats'
import type { Rectangle } from '@/core/raster'
import { check } from './check'
import { RECORD_VERSION, type FuseReport, type ReportFrame } from './report'

/**
 * How the frames of a render lie on one another, complete: what engine, mending and screens read. Written beside the picture
 * as `registration.json`; renders of older versions have a report and a file of bends instead.
 */
export interface Registration {
  version: number
  /** File of the frame that the picture is framed by. */
  reference: string
  frames: Omit<ReportFrame, 'share_percent'>[]
  crop: Rectangle
  bends: BendsFile
}

const number = Joi.number().required()
const row = Joi.array().items(Joi.number()).required()

const bendsSchema = Joi.object({
  net: Joi.object({ left_px: number, top_px: number, spacingX_px: number, spacingY_px: number, columns: number, rows: number }),
  frames: Joi.object()
    .pattern(Joi.string(), Joi.object({ x_px: row, y_px: row }))
    .required(),
})

const schema = Joi.object<Registration>({
  version: Joi.number().integer().min(2).max(RECORD_VERSION).required(),
  reference: Joi.string().required(),
  frames: Joi.array()
    .items(
      Joi.object({
        file: Joi.string().required(),
        scale: number,
        rotation_deg: number,
        dx_px: number,
        dy_px: number,
        gain_ev: number,
      }).unknown(),
    )
    .min(1)
    .required(),
  crop: Joi.object({ x: number, y: number, width: number, height: number }).required(),
  bends: bendsSchema.required(),
}).unknown()

/** The record of a report and its bends, as the engine writes it. */
export function registrationOf({ reference, frames, crop }: Pick<FuseReport, 'reference' | 'frames' | 'crop'>, bends: BendsFile): Registration {
  return { version: RECORD_VERSION, reference, frames: frames.map(({ share_percent: _, ...frame }) => frame), crop, bends }
}

/** A record that was written before, checked. @throws Refusal where it cannot be read. */
export const checkRegistration = (value: unknown): Registration => check(schema, value)

/** The bends of a render of an older version, checked. @throws Refusal where they cannot be read. */
export const checkBends = (value: unknown): BendsFile => check(bendsSchema, value) as BendsFile
