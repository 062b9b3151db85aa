import { drawWords } from '@/codec'
import { check, wordsSchema } from '@/schemas'
import { respond } from '../respond'

/** Words as they are drawn into a picture, as bare grey samples of 8 bits; headers say how many. */
export const GET = (request: Request) =>
  respond(async () => {
    const { text, height } = check<{ text: string; height: number }>(wordsSchema, Object.fromEntries(new URL(request.url).searchParams))
    const { width, data } = await drawWords(text, height)
    const headers = {
      'content-type': 'application/octet-stream',
      'x-width': `${width}`,
      'x-height': `${height}`,
      'cache-control': 'private, max-age=3600',
    }
    return new Response(new Uint8Array(data), { headers })
  })
