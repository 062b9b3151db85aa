import { check, standInSchema, type StandInRequest } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

/** Starts a run with the simulated camera, at the positions of the plan, with the faults that are switched on. */
export const POST = (body: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ work }) => {
    const { faults, files } = check<StandInRequest>(standInSchema, await bodyOf(body))
    return { id: (await work.shoot(await idOf(params), faults, files)).id }
  })
