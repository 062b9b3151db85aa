import { renderDetail, renderOf } from '@/server'
import { idOf, respond } from '../../respond'

type Params = { params: Promise<{ id: string }> }

/** A render with its whole report. */
export const GET = (_: Request, { params }: Params) => respond(async ({ db }) => renderDetail(await renderOf(db, await idOf(params))))

/** Puts a render into the bin. */
export const DELETE = (_: Request, { params }: Params) =>
  respond(async ({ bin }) => {
    await bin.put('render', await idOf(params))
    return undefined
  })
