import Joi from 'joi'
import { EXERCISE_NAMES, LEVELS, type ExerciseName, type Level } from '@/core/practice'

/** A try at an exercise: which task it was, and how well it went. */
export interface PracticeTry {
  exercise: ExerciseName
  level: Level
  seed: number
  percent: number
  took_s: number
}

/** A try as it is kept. */
export interface KeptTry extends PracticeTry {
  created_at: string
}

export const practiceTrySchema = Joi.object<PracticeTry>({
  exercise: Joi.valid(...EXERCISE_NAMES)
    .required()
    .label('The exercise'),
  level: Joi.valid(...LEVELS)
    .required()
    .label('The level'),
  seed: Joi.number()
    .integer()
    .min(0)
    .max(2 ** 31)
    .required()
    .label('The seed'),
  percent: Joi.number().min(0).max(100).required().label('The mark'),
  took_s: Joi.number().min(0).max(86_400).required().label('The time'),
})
