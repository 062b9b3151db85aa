import Joi from 'joi'
import type { TakenWith } from '@/core/formats'

/** What a picture was taken with, as it is kept and handed to jobs; it may gain keys. */
export const takenSchema = Joi.object<TakenWith>({
  body: Joi.string(),
  lens: Joi.string(),
  taken_at: Joi.string(),
  exposure_s: Joi.number(),
  fNumber: Joi.number(),
  focalLength_mm: Joi.number(),
  iso: Joi.number(),
}).unknown()
