import { say } from '@/core/words'
import { finishedFile } from '@/server'
import { idOf, respond, sendFile } from '../../../respond'

/** A finished picture to take away, by the `name` that its job answered. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ db, store: { folders } }) => {
    const name = new URL(request.url).searchParams.get('name') ?? ''
    const { file, type } = await finishedFile(db, folders, await idOf(params), name)
    return sendFile(file, type, { name, gone: say('render.notKept') })
  })
