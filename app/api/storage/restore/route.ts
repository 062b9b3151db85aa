import { Readable } from 'node:stream'
import type { ReadableStream as WebStream } from 'node:stream/web'
import { refusal } from '@/core/words'
import { guarded } from '../../respond'

/** Takes an archive as the body and queues adding what it holds and is missing here. */
export const PUT = (request: Request) =>
  guarded(request, async ({ storage }) => {
    if (!request.body) throw refusal('archive.unreadable', { name: 'The file' })
    return { id: (await storage.restore(Readable.fromWeb(request.body as WebStream))).id }
  })
