import { idOf, respond } from '../../../respond'

export const POST = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ jobs }) => {
    await jobs.cancel(await idOf(params))
    return undefined
  })
