import { idOf, respond } from '../../respond'

/** Puts a render into the bin. */
export const DELETE = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ bin }) => {
    await bin.put('render', await idOf(params))
    return undefined
  })
