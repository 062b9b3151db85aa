import { idOf, respond } from '../../../respond'

/** Puts the frames of a run that was split off back into the run before it; answers that. */
export const POST = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ shoots }) => ({ id: await shoots.join(await idOf(params)) }))
