import Joi from 'joi'
import type { CaptureSets } from '@/core/develop'
import type { CardSeries, CardSplit, SurveyReport } from '@/core/survey'

const files = Joi.array().items(Joi.string()).required()

/** A survey as it is kept with a run; it may gain keys. */
export const surveySchema = Joi.object<SurveyReport>({
  frames: Joi.array()
    .items(
      Joi.object({
        file: Joi.string().required(),
        role: Joi.valid('use', 'divider', 'flawed', 'idle').required(),
        reason: Joi.string().allow('').required(),
        exposure_ev: Joi.number().required(),
      }).unknown(),
    )
    .required(),
  order: Joi.valid('near-to-far', 'far-to-near', 'mixed').required(),
  directionBy: Joi.string().required(),
  blurStep: Joi.object({ ofWidth: Joi.number().required(), spread: Joi.number().required() }).unknown(),
  coverage: Joi.object({
    nearEnd: Joi.valid('reached', 'short').required(),
    farEnd: Joi.valid('reached', 'short').required(),
    gaps: Joi.array()
      .items(Joi.object({ after: Joi.string().required(), before: Joi.string().required(), missing: Joi.number().required() }).unknown())
      .required(),
    // Surveys made before it existed have none.
    unsharp: Joi.object({
      share_percent: Joi.number().required(),
      near_percent: Joi.number().required(),
      far_percent: Joi.number().required(),
      between_percent: Joi.number().required(),
      missing: Joi.object({ near: Joi.number().required(), far: Joi.number().required() }).required(),
      file: Joi.string().required(),
      map: Joi.array()
        .items(Joi.string().pattern(/^[.nfb]+$/))
        .required(),
    }).unknown(),
  })
    .unknown()
    .required(),
  exposure: Joi.object({ spread_ev: Joi.number().required() }).unknown().required(),
  messages: Joi.array()
    .items(Joi.object({ code: Joi.string().required(), text: Joi.string().required(), files }).unknown())
    .required(),
}).unknown()

/** What a card was found to hold: its series, and of raw ones whether their frames were captured several times with a shifted sensor. */
export interface SplitReport extends Omit<CardSplit, 'series'> {
  series: (CardSeries & { captures?: Omit<CaptureSets, 'before'> })[]
}

const place = Joi.array().items(Joi.number()).length(2)

export const splitSchema = Joi.object<SplitReport>({
  series: Joi.array()
    .items(
      Joi.object({
        files,
        reason: Joi.string().allow('').required(),
        captures: Joi.object({
          finer: Joi.valid(1, 2).required(),
          places: Joi.array().items(place).required(),
          sets: Joi.array().items(files).required(),
        }),
      }).unknown(),
    )
    .required(),
}).unknown()
