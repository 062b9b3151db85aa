import { idOf, respond } from '../../respond'

/** Puts a run into the bin. */
export const DELETE = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ bin }) => {
    await bin.put('run', await idOf(params))
    return undefined
  })
