import Joi from 'joi'
import type { Kit } from '@/core/kit'
import { completePlanRequest, type PlanRequest } from '@/core/plan'
import { answerOf, NEW_SHEET, SHEET_MOVERS, type PlanSheet, type SheetAnswer } from '@/core/sheet'
import { check } from './check'
import { planRequestSchema } from './planRequest'

const SURROUNDINGS = ['water', 'height', 'road', 'animals', 'protected', 'people']

const CHOICES: Partial<Record<keyof PlanSheet, string[]>> = {
  kind: ['depth', 'range'],
  from: ['lens', 'sensor'],
  distancesFrom: ['plan', 'lens'],
  reach: ['lens', 'extension', 'closeUp', 'reversed', 'faceToFace', 'objective', 'ruler', 'distance'],
  criterion: ['pixels', 'coc', 'print'],
  mover: Object.keys(SHEET_MOVERS),
  gravity: ['level', 'down', 'up'],
  direction: ['near', 'far'],
}

const LISTS: Partial<Record<keyof PlanSheet, Joi.Schema>> = {
  targets: Joi.array()
    .items(
      Joi.object({ name: Joi.string().trim().allow('').max(80).required(), distance_mm: Joi.number().greater(0).max(1e9).allow(null).required() }),
    )
    .max(40),
  surroundings: Joi.array()
    .items(Joi.valid(...SURROUNDINGS))
    .max(SURROUNDINGS.length),
}

/** What keys were before there were any; for the rest the new sheet says it. */
const BEFORE: Partial<PlanSheet> = { distancesFrom: 'lens' }

/** A stored sheet. Keys that an older sheet lacks come from the new one. */
export const planSheetSchema = Joi.object<PlanSheet>(
  Object.fromEntries(
    Object.entries({ ...NEW_SHEET, ...BEFORE }).map(([key, value]) => [key, fieldSchema(key as keyof PlanSheet, value).default(() => value)]),
  ),
)

function fieldSchema(key: keyof PlanSheet, example: unknown): Joi.Schema {
  const choices = CHOICES[key]
  if (choices) return Joi.valid(...choices)
  if (LISTS[key]) return LISTS[key]
  if (typeof example === 'boolean') return Joi.boolean()
  if (typeof example === 'string') return Joi.string().allow('').max(80)
  return Joi.number().max(1e9).allow(null)
}

/** The plan of a sheet as it is filled in, checked as every request is, or what to change and at which field. */
export function planOfSheet(sheet: PlanSheet, kit: Kit): SheetAnswer {
  return answerOf(sheet, kit, (request) => completePlanRequest(check<PlanRequest>(planRequestSchema, request)))
}
