import { check, folderSchema } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

type Place = { params: Promise<{ id: string }> }

/** How the watching of a folder goes for this shoot; null where none is watched. */
export const GET = (_: Request, { params }: Place) => respond(async ({ watching }) => ({ watch: watching.of(await idOf(params)) }))

/** Takes frames in as they come into a folder of this machine, inside the import folder. */
export const POST = (request: Request, { params }: Place) =>
  respond(async ({ watching }) => {
    const { folder } = check<{ folder: string }>(folderSchema, await bodyOf(request))
    return { watch: await watching.begin(await idOf(params), folder) }
  })

/** Watches no longer. */
export const DELETE = (_: Request, { params }: Place) =>
  respond(async ({ watching }) => {
    await watching.end(await idOf(params))
    return undefined
  })
