import { check, developLikeSchema } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

/** Has the raw frames of a run developed as one of them was shot: `{"frame": 7}`. */
export const PUT = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ shoots }) => {
    const { frame } = check<{ frame: number }>(developLikeSchema, await bodyOf(request))
    await shoots.developLike(await idOf(params), frame)
    return undefined
  })
