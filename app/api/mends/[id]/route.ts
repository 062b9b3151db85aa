import Joi from 'joi'
import type { MendBase } from '@/core/mend'
import { check, mendBaseSchema } from '@/schemas'
import { bodyOf, idOf, respond } from '../../respond'

/** Takes a mend away; the renders that were made by it stay. */
export const DELETE = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ mends }) => {
    await mends.remove(await idOf(params))
    return undefined
  })

/** Lays what is painted on anew: `{ base }`; answers the mend as it then is. */
export const PUT = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ mends }) => {
    const { base } = check<{ base: MendBase }>(Joi.object({ base: mendBaseSchema.required() }), await bodyOf(request))
    return mends.rebase(await idOf(params), base)
  })
