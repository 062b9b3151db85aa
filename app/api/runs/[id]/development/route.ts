import { check, developLikeSchema, type DevelopLike } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

/** Has the raw frames of a run developed as one of them was shot: `{"frame": 7}`; or so that a place of it becomes grey, in parts of its width and height: `{"frame": 7, "neutral": [0.5, 0.4]}`. */
export const PUT = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ shoots }) => {
    const { frame, neutral } = check<DevelopLike>(developLikeSchema, await bodyOf(request))
    await shoots.developLike(await idOf(params), frame, neutral)
    return undefined
  })
