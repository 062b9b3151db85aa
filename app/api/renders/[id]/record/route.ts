import { recordOf, recordPdf, renderOf, slugOf } from '@/server'
import { idOf, respond, sendPdf, unitsOf } from '../../../respond'

/** The record of a picture as a PDF of one page; `?units=inches` for inches. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ db, store, kit, shoots }) => {
    const render = await renderOf(db, await idOf(params))
    const shoot = await shoots.detail((await shoots.runRow(render.run_id)).shoot_id)
    const record = await recordOf(db, store, await kit.all(), shoot, render.id, unitsOf(request))
    return sendPdf(await recordPdf(record), `record-${slugOf(shoot.title)}.pdf`)
  })
