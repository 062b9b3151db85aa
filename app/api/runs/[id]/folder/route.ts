import { check, folderSchema } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

/** Imports the frames of a folder of this machine, inside the allowed root; answers how many, and what was refused. */
export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ store }) => {
    const { folder } = check<{ folder: string }>(folderSchema, await bodyOf(request))
    return store.addFolder(await idOf(params), folder)
  })
