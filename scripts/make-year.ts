import { rm, stat } from 'node:fs/promises'
import path from 'node:path'
import { writeBackup } from '@/archive'
import { planSeries } from '@/core/plan'
import { now } from '@/database'
import { PAST_YEAR, YEAR_FOLDER, type PastShoot } from '@/demo/year'
import { check, fuseSettingsSchema } from '@/schemas'
import { openContext, readEnvironment, simulationOf, type Context } from '@/server'

/**
 * Shoots the studio's past year with the simulator, in small pictures, and keeps each shoot as an archive that the first start reads:
 * `npm run demo:year`. Needed again only where the year, the simulator or stored records change.
 */
const SIZE = { width_px: 192, height_px: 128 }

async function live({ db, shoots, jobs, work, logbook }: Context, past: PastShoot, seed: number): Promise<number> {
  const begun = now()
  const { done: _, ...shoot } = past.shoot
  const shootId = await shoots.create(shoot)
  const settings = simulationOf(shoot.scene, shoot.plan, planSeries(shoot.plan), seed, past.faults)
  const run = await shoots.addRun(shootId, 'simulated')
  await jobs.outcome(
    await jobs.add('shoot', { shoot_id: shootId, run_id: run }, { ...settings, fullWell: 300_000, camera: { ...settings.camera, ...SIZE } }),
  )
  await jobs.outcome(await work.survey(run))
  for (const style of past.styles) await jobs.outcome(await work.fuse(run, check(fuseSettingsSchema, { style })))
  const { stars, note, tags } = past
  await logbook.note(run, { stars, note, tags })
  // It was done on that day.
  const late_ms = Date.parse(begun) - Date.parse(past.at)
  for (const table of ['shoot', 'run', 'frame', 'render', 'job'] as const) {
    const rows = await db.selectFrom(table).select(['id', 'created_at']).where('created_at', '>=', begun).execute()
    for (const { id, created_at } of rows) {
      const then = new Date(Date.parse(created_at) - late_ms).toISOString()
      await db.updateTable(table).set({ created_at: then }).where('id', '=', id).execute()
    }
  }
  await db.updateTable('shoot').set({ changed_at: past.at }).where('id', '=', shootId).execute()
  return shootId
}

const environment = readEnvironment()
const context = await openContext(environment)
await rm(YEAR_FOLDER, { recursive: true, force: true })
try {
  for (const [k, past] of PAST_YEAR.entries()) {
    const shoot = await live(context, past, 4100 + k)
    const out = path.join(YEAR_FOLDER, `${past.at.slice(0, 10)}.zip`)
    await writeBackup({ dataFolder: environment.dataFolder, shoots: [shoot], out })
    console.log(`${out}, ${past.shoot.title}: ${Math.round((await stat(out)).size / 1000)} kB`)
  }
} finally {
  await context.close()
}
