import type { MendBase } from '@/core/mend'
import { check, newMendSchema } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

type Params = { params: Promise<{ id: string }> }

/** The mends of a render, the newest first. */
export const GET = (_: Request, { params }: Params) => respond(async ({ mends }) => mends.of(await idOf(params)))

/** Begins a mend. */
export const POST = (request: Request, { params }: Params) =>
  respond(async ({ mends }) => {
    const { title, base } = check<{ title: string; base: MendBase }>(newMendSchema, await bodyOf(request))
    return { id: await mends.begin(await idOf(params), title, base) }
  })
