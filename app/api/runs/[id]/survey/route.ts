import { idOf, respond } from '../../../respond'

/** Queues a survey of a run; what it finds is kept with the run. */
export const POST = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ work }) => ({ id: (await work.survey(await idOf(params))).id }))
