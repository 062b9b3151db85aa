import { check, shootWordsSchema, type ShootWords } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

/** Changes what a shoot is called. */
export const PUT = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ shoots }) => {
    await shoots.rename(await idOf(params), check<ShootWords>(shootWordsSchema, await bodyOf(request)))
    return undefined
  })
