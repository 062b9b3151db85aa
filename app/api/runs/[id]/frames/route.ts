import { Readable } from 'node:stream'
import type { ReadableStream as WebStream } from 'node:stream/web'
import { InputError } from '@/schemas'
import { idOf, respond } from '../../../respond'

/** Takes one frame: its bytes as the body, its name as `?name=`. */
export const PUT = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ store }) => {
    const name = new URL(request.url).searchParams.get('name') ?? ''
    if (!request.body) throw new InputError(`${name || 'The file'} is empty; copy it from the card again.`)
    const { id } = await store.add(await idOf(params), name, Readable.fromWeb(request.body as WebStream))
    return { id }
  })
