import { check, fuseSettingsSchema, InputError, type FuseSettings } from '@/schemas'
import { bodyOf, idOf, respond } from '../../../respond'

/** Queues a render of a run. */
export const POST = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ db, jobs }) => {
    const runId = await idOf(params)
    const settings = check<FuseSettings>(fuseSettingsSchema, await bodyOf(request))
    const run = await db.selectFrom('run').select('shoot_id').where('id', '=', runId).executeTakeFirst()
    if (!run) throw new InputError('This run does not exist any more; go back to the shoot.')
    const { count } = await db
      .selectFrom('frame')
      .select((e) => e.fn.countAll<number>().as('count'))
      .where('run_id', '=', runId)
      .executeTakeFirstOrThrow()
    if (count < 2) throw new InputError(`The run holds ${count === 1 ? 'one frame only' : 'no frames'}; a series needs at least two.`)
    if (settings.reference && settings.reference > count) throw new InputError(`The run holds ${count} frames; the reference must be one of them.`)
    const { id } = await jobs.add(run.shoot_id, runId, 'fuse', settings)
    return { id }
  })
