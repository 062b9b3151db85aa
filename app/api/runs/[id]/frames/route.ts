import { Readable } from 'node:stream'
import type { ReadableStream as WebStream } from 'node:stream/web'
import { refusal } from '@/core/words'
import { guarded, idOf } from '../../../respond'

/** Takes one frame: its bytes as the body, its name as `?name=`. */
export const PUT = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  guarded(request, async ({ store }) => {
    const name = new URL(request.url).searchParams.get('name') ?? ''
    if (!request.body) throw refusal('picture.empty', { name: name || 'The file' })
    const { id } = await store.bring(await idOf(params), name, Readable.fromWeb(request.body as WebStream))
    return { id }
  })
