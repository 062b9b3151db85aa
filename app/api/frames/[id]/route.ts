import { idOf, respond } from '../../respond'

/** Puts a frame into the bin. */
export const DELETE = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ bin }) => {
    await bin.put('frame', await idOf(params))
    return undefined
  })
