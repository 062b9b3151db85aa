import { idOf, respond } from '../../../respond'

/** Makes every capture of a run a frame of its own again. */
export const DELETE = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ shoots }) => {
    await shoots.takeCapturesApart(await idOf(params))
    return undefined
  })
