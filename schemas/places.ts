import Joi from 'joi'
import { PLACE_KINDS, type Place } from '@/core/inspect'

const number = Joi.number().required()

/** Places of a render that are worth a look, as the engine writes them and the application keeps them. */
export const placesSchema = Joi.object<{ places: Place[] }>({
  places: Joi.array()
    .items(
      Joi.object({
        x: number,
        y: number,
        width: number,
        height: number,
        kind: Joi.valid(...PLACE_KINDS).required(),
        severity: number,
        text: Joi.string().required(),
        suggestion: Joi.alternatives(
          Joi.object({ frame: Joi.string().required() }),
          Joi.object({ style: Joi.string().required() }),
          Joi.object({ heal: Joi.valid(true).required() }),
        )
          .allow(null)
          .required(),
      }).unknown(),
    )
    .required(),
}).unknown()
