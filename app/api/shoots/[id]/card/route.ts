import { runCardOf, storedSheetPlan } from '@/core/sheet'
import { refusal } from '@/core/words'
import { cardPdf, slugOf } from '@/server'
import { idOf, respond, sendPdf, unitsOf } from '../../../respond'

/** The run card of a kept plan as a PDF; `?units=inches` for inches. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ shoots, kit }) => {
    const shoot = await shoots.detail(await idOf(params))
    const stored = storedSheetPlan(shoot, await kit.all())
    if ('error' in stored) throw refusal('shoot.planBroken', { reason: stored.error }, stored.field)
    const pdf = await cardPdf(runCardOf(stored, stored.sheet, shoot, unitsOf(request)))
    return sendPdf(pdf, `run-card-${slugOf(shoot.title)}.pdf`)
  })
