import Joi from 'joi'
import type { FieldEvent } from '@/core/field'
import type { TakenWith } from '@/core/formats'
import type { Place } from '@/core/inspect'
import type { Kit } from '@/core/kit'
import type { MendBase, MendEdit } from '@/core/mend'
import { completePlanRequest, type PlanRequest } from '@/core/plan'
import type { PlanSheet } from '@/core/sheet'
import type { SurveyReport } from '@/core/survey'
import { isRefusal, refusal } from '@/core/words'
import { check } from './check'
import { runDevelopmentSchema, type RunDevelopment } from './development'
import { fieldEventSchema } from './field'
import { checkKit } from './kit'
import { mendBaseSchema, mendEditSchema } from './mend'
import { neededSchema, type NeededReport } from './needed'
import { placesSchema } from './places'
import { planRequestSchema } from './planRequest'
import { planSheetSchema } from './planSheet'
import { inShort, reportSchema, shortReportSchema, type FuseReport, type ReportInShort } from './report'
import { surveySchema } from './surveyReport'
import { takenSchema } from './taken'

/** Colour model and profile of a frame as they are kept. */
export interface StoredColour {
  model: 'rgb' | 'grey' | 'cmyk'
  /** What the profile calls itself; null without one. */
  profile: string | null
  /** SHA-256 of the profile, so that two of one name are not mixed up. */
  sha256: string | null
}

const colourSchema = Joi.object<StoredColour>({
  model: Joi.valid('rgb', 'grey', 'cmyk').required(),
  profile: Joi.string().allow(null).required(),
  sha256: Joi.string().allow(null).required(),
})

/**
 * Reads JSON that was stored before, by its schema: whatever came into the database, what leaves this function is what its type
 * says. `what` names it in the sentence.
 * @throws Refusal where it is no such thing.
 */
function stored<T>(schema: Joi.Schema<T>, text: string, what: string): T {
  try {
    return check(schema, JSON.parse(text))
  } catch (error) {
    if (error instanceof SyntaxError || isRefusal(error)) throw refusal('shoot.unreadable', { what })
    throw error
  }
}

/** null where nothing was planned: the frames came first. */
export function storedPlan(text: string): PlanRequest | null {
  const plan = stored<PlanRequest | null>(planRequestSchema.allow(null), text, 'the plan')
  return plan && completePlanRequest(plan)
}

export const storedSheet = (text: string): PlanSheet => stored(planSheetSchema, text, 'what stood in the plan’s fields')
export const storedPlaces = (text: string): { places: Place[] } => stored(placesSchema, text, 'the places')
export const storedNeeded = (text: string): NeededReport => stored(neededSchema, text, 'how many frames were needed')
export const storedSurvey = (text: string): SurveyReport => stored(surveySchema, text, 'the survey')
export const storedReport = (text: string): FuseReport => stored(reportSchema, text, 'the report of a render')
/** Of a list's many reports the frames are not looked at one by one. */
export const storedReportInShort = (text: string): ReportInShort => inShort(stored(shortReportSchema, text, 'the report of a render'))
export const storedTaken = (text: string): TakenWith => stored(takenSchema, text, 'what a frame was taken with')
export const storedDevelopment = (text: string): RunDevelopment => stored(runDevelopmentSchema, text, 'how raw frames are developed')
export const storedColour = (text: string): StoredColour => stored(colourSchema, text, 'the colour space of a frame')
export const storedFieldEvent = (text: string): FieldEvent => stored(fieldEventSchema, text, 'the field log') as FieldEvent

export const storedEdit = (text: string): MendEdit => stored<MendEdit>(mendEditSchema as Joi.Schema<MendEdit>, text, 'an edit')
export const storedBase = (text: string): MendBase => stored<MendBase>(mendBaseSchema as Joi.Schema<MendBase>, text, 'what a mend paints on')

export function storedKit(text: string): Kit {
  try {
    return checkKit(JSON.parse(text))
  } catch (error) {
    if (error instanceof SyntaxError || isRefusal(error)) throw refusal('shoot.unreadable', { what: 'the kit of a run' })
    throw error
  }
}
