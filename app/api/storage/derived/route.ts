import { respond } from '../../respond'

/** Deletes what can be made again. */
export const DELETE = () =>
  respond(async ({ storage }) => {
    await storage.free()
    return undefined
  })
