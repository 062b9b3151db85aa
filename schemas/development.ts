import Joi from 'joi'
import type { Development } from '@/core/develop'

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
}

export const runDevelopmentSchema = Joi.object<RunDevelopment>({ ...factors, like: Joi.string().required() })
