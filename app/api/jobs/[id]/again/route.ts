import { idOf, respond } from '../../../respond'

/** Runs an ended job once more with the same settings. */
export const POST = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ work }) => ({ id: (await work.again(await idOf(params))).id }))
