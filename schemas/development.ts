import Joi from 'joi'
import type { Development, NeutralPlace } from '@/core/develop'

const factor = Joi.number().min(0.01).max(100)
const factors = {
  multipliers: Joi.array().length(3).items(factor).required(),
  headroom: factor.min(1).required(),
}

/** How raw frames of a series are developed. */
export const developmentSchema = Joi.object<Development>(factors)

/** The same as a run keeps it, with the frame that it was taken from. */
export interface RunDevelopment extends Development {
  like: string
  /** The place of it that was made grey; absent where it is as the camera noted it. */
  neutral?: NeutralPlace
}

const part = Joi.number().min(0).max(1).required()
export const neutralPlaceSchema = Joi.array().length(2).ordered(part, part)

export const runDevelopmentSchema = Joi.object<RunDevelopment>({ ...factors, like: Joi.string().required(), neutral: neutralPlaceSchema })
