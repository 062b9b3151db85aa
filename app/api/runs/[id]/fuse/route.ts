import { check, fuseSettingsSchema, type FuseSettings } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

/** Queues a render of a run. */
export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ work }) => {
    const settings = check<FuseSettings>(fuseSettingsSchema, await bodyOf(request))
    return { id: (await work.fuse(await idOf(params), settings)).id }
  })
