import { InputError } from '@/schemas'
import { idOf, respond } from '../../../respond'

/** Runs an ended job once more with the same settings; a shoot gets a run of its own, so that no frame is overwritten. */
export const POST = (_: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ db, jobs, shoots }) => {
    const job = await db
      .selectFrom('job')
      .selectAll()
      .where('id', '=', await idOf(params))
      .executeTakeFirst()
    if (!job) throw new InputError('This job does not exist any more; go back to the shoot.')
    if (job.state === 'queued' || job.state === 'running') throw new InputError('This job has not ended yet.')
    const runId = job.kind === 'shoot' ? await shoots.addRun(job.shoot_id, 'simulated') : job.run_id
    const { id } = await jobs.add(job.shoot_id, runId, job.kind, JSON.parse(job.settings_json))
    return { id }
  })
