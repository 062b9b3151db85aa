import { check, fuseSettingsSchema, InputError, type FuseSettings } from '@/schemas'
import { framesToFuse } from '@/server'
import { bodyOf, idOf, respond } from '../../../respond'

/** Queues a render of a run. */
export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ db, jobs }) => {
    const runId = await idOf(params)
    const settings = check<FuseSettings>(fuseSettingsSchema, await bodyOf(request))
    const run = await db.selectFrom('run').select('shoot_id').where('id', '=', runId).executeTakeFirst()
    if (!run) throw new InputError('This run does not exist any more; go back to the shoot.')
    const count = (await framesToFuse(db, runId)).length
    if (count < 2) throw new InputError(`The run holds ${count === 1 ? 'one frame only' : 'no frames'} to fuse; a series needs at least two.`)
    if (settings.reference && settings.reference > count) throw new InputError(`${count} frames are fused; the reference must be one of them.`)
    const { id } = await jobs.add(run.shoot_id, runId, 'fuse', settings)
    return { id }
  })
