import { restoreBackup } from '@/archive'
import { DEMO_SHOOTS } from '@/demo/scenario'
import { check, fuseSettingsSchema } from '@/schemas'
import { openContext, type Context } from '@/server'

/**
 * Fills an empty data folder with the demo scenario: the plans, and one series shot and fused twice by the real engine. In it a part
 * stirred and dust lay on the sensor, so that there is something to mend. The studio's past year comes from an archive, in small
 * pictures that were made the same way (`npm run demo:year`).
 */
async function prepareDemo({ db, shoots, jobs, work, environment }: Context): Promise<void> {
  if ((await shoots.list()).length > 0) return
  jobs.events.on('any', ({ kind, progress_json }) => process.stderr.write(`\rDemo: ${kind} ${progressText(progress_json)}      `))
  for (const { done, ...shoot } of DEMO_SHOOTS) {
    const shootId = await shoots.create(shoot)
    if (!done) continue
    const { run_id } = await work.shoot(shootId, ['stirred', 'dust'])
    await jobs.idle()
    // Two renders, to lay beside each other; the newest one is shown.
    for (const style of ['terrain', 'auto']) await work.fuse(run_id!, check(fuseSettingsSchema, { style }))
    await work.survey(run_id!)
  }
  await jobs.idle()
  await restoreBackup(environment.dataFolder, 'demo/year.zip')
  process.stderr.write('\n')
  const failed = await db.selectFrom('job').select('error').where('state', '!=', 'done').executeTakeFirst()
  if (failed) throw new Error(`The demo data could not be made: ${failed.error}`)
}

function progressText(progress_json: string | null): string {
  if (!progress_json) return ''
  const { stage, frame, of } = JSON.parse(progress_json)
  return `${stage} ${frame}/${of}`
}

const context = await openContext()
try {
  await prepareDemo(context)
} finally {
  await context.close()
}
