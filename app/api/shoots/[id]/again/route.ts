import { idOf, respond } from '../../../respond'

/** Plans the same shoot once more, without its runs. */
export const POST = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ shoots }) => ({ id: await shoots.planAgain(await idOf(params)) }))
