import Joi from 'joi'
import type { Kit } from '@/core/kit'
import type { PlanRequest } from '@/core/plan'
import { NEW_SHEET, planSheet, sheetOf, withGear, type PlanSheet, type SheetPlan } from '@/core/sheet'
import { isRefusal } from '@/core/words'
import { check } from './check'
import { completePlanRequest, planRequestSchema } from './planRequest'

const SURROUNDINGS = ['water', 'height', 'road', 'animals', 'protected', 'people']

const CHOICES: Partial<Record<keyof PlanSheet, string[]>> = {
  kind: ['depth', 'range'],
  from: ['lens', 'sensor'],
  reach: ['lens', 'extension', 'closeUp', 'reversed', 'faceToFace', 'objective', 'ruler', 'distance'],
  criterion: ['pixels', 'coc', 'print'],
  mover: ['rail', 'ring', 'bracketing'],
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

/** A stored sheet. Keys that an older sheet lacks come from the new one. */
export const planSheetSchema = Joi.object<PlanSheet>(
  Object.fromEntries(Object.entries(NEW_SHEET).map(([key, value]) => [key, fieldSchema(key as keyof PlanSheet, value).default(() => value)])),
)

function fieldSchema(key: keyof PlanSheet, example: unknown): Joi.Schema {
  const choices = CHOICES[key]
  if (choices) return Joi.valid(...choices)
  if (LISTS[key]) return LISTS[key]
  if (typeof example === 'boolean') return Joi.boolean()
  if (typeof example === 'string') return Joi.string().allow('').max(80)
  return Joi.number().max(1e9).allow(null)
}

export type SheetAnswer = SheetPlan | SheetRefusal

/** Why a sheet cannot be planned, and the sheet's key to change. */
export interface SheetRefusal {
  error: string
  code: string
  field: string
}

/** The plan of a sheet with this kit, or what to mend and at which field of the sheet. */
export function planOfSheet(sheet: PlanSheet, kit: Kit): SheetAnswer {
  try {
    return planSheet(sheet, kit, (request) => completePlanRequest(check<PlanRequest>(planRequestSchema, request)))
  } catch (error) {
    if (isRefusal(error)) return { error: error.message, code: error.code, field: error.field }
    throw error
  }
}

/** A shoot's sheet as it was kept, planned with today's kit; a plan that came without a sheet gets the one that fits it. */
export function storedSheetPlan(
  { sheet, planRequest }: { sheet: PlanSheet | null; planRequest: PlanRequest },
  kit: Kit,
): (SheetPlan & { sheet: PlanSheet }) | SheetRefusal {
  const filled = withGear(sheet ?? sheetOf(completePlanRequest(planRequest), kit), kit)
  const answer = planOfSheet(filled, kit)
  return 'plan' in answer ? { ...answer, sheet: filled } : answer
}
