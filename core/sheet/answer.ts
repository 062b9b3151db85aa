import type { Kit } from '../kit'
import { completePlanRequest, type PlanRequest } from '../plan'
import { isRefusal, say } from '../words'
import { withGear } from './gear'
import type { PlanSheet } from './sheet'
import { sheetOf } from './sheetOf'
import { planSheet, type SheetPlan } from './sheetPlan'

export type SheetAnswer = SheetPlan | SheetRefusal

/** Why a sheet cannot be planned, and the sheet's key to change. */
export interface SheetRefusal {
  error: string
  code: string
  field: string
}

/** The plan of a sheet with this kit, or what to change and at which field of the sheet. `complete` checks the request, too. */
export function answerOf(sheet: PlanSheet, kit: Kit, complete: (request: PlanRequest) => PlanRequest = completePlanRequest): SheetAnswer {
  try {
    return planSheet(sheet, kit, complete)
  } catch (error) {
    if (isRefusal(error)) return { error: error.message, code: error.code, field: error.field }
    throw error
  }
}

/** What there is to say of a shoot without a plan. */
export function noPlan(): SheetRefusal {
  const { code, text } = say('shoot.noPlan')
  return { code, error: text, field: '' }
}

/** A shoot's sheet as it was kept (and checked), planned with today's kit; a plan that came without one gets the sheet that fits it. */
export function storedSheetPlan(
  { sheet, planRequest }: { sheet: PlanSheet | null; planRequest: PlanRequest | null },
  kit: Kit,
): (SheetPlan & { sheet: PlanSheet }) | SheetRefusal {
  const kept = sheet ?? (planRequest && sheetOf(completePlanRequest(planRequest), kit))
  if (!kept) return noPlan()
  const filled = withGear(kept, kit)
  const answer = answerOf(filled, kit)
  return 'plan' in answer ? { ...answer, sheet: filled } : answer
}
