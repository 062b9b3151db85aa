import { check, shootRequestSchema, type ShootRequest } from '@/schemas'
import { bodyOf, idOf, respond } from '../../respond'

type Params = { params: Promise<{ id: string }> }

export const GET = (_: Request, { params }: Params) => respond(async ({ shoots }) => shoots.detail(await idOf(params)))

export const PUT = (request: Request, { params }: Params) =>
  respond(async ({ shoots }) => {
    await shoots.replan(await idOf(params), check<ShootRequest>(shootRequestSchema, await bodyOf(request)))
    return undefined
  })

/** Puts a shoot into the bin, with all its runs. */
export const DELETE = (_: Request, { params }: Params) =>
  respond(async ({ bin }) => {
    await bin.put('shoot', await idOf(params))
    return undefined
  })
