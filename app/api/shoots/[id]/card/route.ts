import { runCardOf, storedSheetPlan } from '@/core/sheet'
import { refusal } from '@/core/words'
import { cardFile, cardPdf, slugOf } from '@/server'
import { idOf, respond, sendPage, sendPdf, unitsOf } from '../../../respond'

/** The run card of a kept plan as a PDF, or `?as=file` as one file that works without the application; `?units=inches` for inches. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ shoots, kit }) => {
    const shoot = await shoots.detail(await idOf(params))
    if (new URL(request.url).searchParams.get('as') === 'file') {
      const { uid } = await shoots.shoot(shoot.id)
      return sendPage(await cardFile(shoot, uid, await kit.all(), unitsOf(request)), `run-card-${slugOf(shoot.title)}.html`)
    }
    const stored = storedSheetPlan(shoot, await kit.all())
    if ('error' in stored) throw refusal('shoot.planBroken', { reason: stored.error }, stored.field)
    const pdf = await cardPdf(runCardOf(stored, stored.sheet, shoot, unitsOf(request)))
    return sendPdf(pdf, `run-card-${slugOf(shoot.title)}.pdf`)
  })
