import { idOf, respond } from '../../../respond'

/** Queues taking a run apart into its series. */
export const POST = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ work }) => ({ id: (await work.split(await idOf(params))).id }))
