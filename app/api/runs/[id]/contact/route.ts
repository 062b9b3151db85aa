import { contactOf, contactPdf, slugOf } from '@/server'
import { idOf, respond, sendPdf, unitsOf } from '../../../respond'

/** The contact sheet of a run as a PDF; `?units=inches` for inches. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ db, store, shoots }) => {
    const run = await shoots.runRow(await idOf(params))
    const shoot = await shoots.detail(run.shoot_id)
    const pdf = await contactPdf(await contactOf(db, store, shoot, run.id, unitsOf(request)))
    return sendPdf(pdf, `contact-sheet-${slugOf(shoot.title)}-run${run.number}.pdf`)
  })
