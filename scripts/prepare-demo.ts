import { planSeries } from '@/core/plan'
import { DEMO_SHOOTS } from '@/demo/scenario'
import { completePlanRequest } from '@/schemas'
import { openContext, simulationOf, type Context } from '@/server'

/** Fills an empty data folder with the demo scenario: the plans, and one series shot and fused twice by the real engine. */
async function prepareDemo(context: Context): Promise<void> {
  const { shoots, jobs, surveys } = context
  if ((await shoots.list()).length > 0) return
  for (const { done, ...shoot } of DEMO_SHOOTS) {
    const { plan, scene } = shoot
    const shootId = await shoots.create(shoot)
    if (!done) continue
    const request = completePlanRequest(plan)
    const runId = await shoots.addRun(shootId, 'simulated')
    await jobs.add(shootId, runId, 'shoot', simulationOf(scene, request, planSeries(request), shootId))
    // Two renders, to lay beside each other; the newest one is shown.
    for (const style of ['terrain', 'auto']) await jobs.add(shootId, runId, 'fuse', { style, bits: 16, crop: 'common', register: true })
  }
  jobs.events.on('any', ({ kind, progress_json }) => process.stderr.write(`\rDemo: ${kind} ${progressText(progress_json)}      `))
  await jobs.idle()
  for (const { id } of await context.db.selectFrom('run').select('id').execute()) await surveys.make(id)
  process.stderr.write('\n')
  const failed = await context.db.selectFrom('job').select('error').where('state', '!=', 'done').executeTakeFirst()
  if (failed) throw new Error(`The demo data could not be made: ${failed.error}`)
}

function progressText(progress_json: string | null): string {
  if (!progress_json) return ''
  const { stage, frame, of } = JSON.parse(progress_json)
  return `${stage} ${frame}/${of}`
}

const context = await openContext()
await prepareDemo(context)
await context.db.destroy()
