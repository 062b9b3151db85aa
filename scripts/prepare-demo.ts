import { readdir } from 'node:fs/promises'
import path from 'node:path'
import { restoreBackup } from '@/archive'
import { fittedRecipe } from '@/core/finish'
import { DEMO_RECIPES } from '@/demo/recipes'
import { DEMO_SHOOTS } from '@/demo/scenario'
import { YEAR_FOLDER } from '@/demo/year'
import { check, fuseSettingsSchema } from '@/schemas'
import { madeForOf, openContext, type Context } from '@/server'

/**
 * Fills an empty data folder with the demo scenario: the plans, and one series shot and fused twice by the real engine. In it a part
 * stirred and dust lay on the sensor, so that there is something to mend. The studio's past year comes from archives, in small
 * pictures that were made the same way (`npm run demo:year`).
 */
async function prepareDemo({ db, shoots, jobs, work, recipes, environment }: Context): Promise<void> {
  if ((await shoots.list()).shoots.length > 0) return
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
  for (const { name, recipe } of DEMO_RECIPES) await recipes.keep(name, recipe)
  // The newest picture is being finished by the first of them.
  const newest = await db.selectFrom('render').selectAll().orderBy('id', 'desc').executeTakeFirstOrThrow()
  await recipes.set(newest.id, fittedRecipe(DEMO_RECIPES[0].recipe, await madeForOf(db, newest)))
  await restoreYear(environment.dataFolder)
  process.stderr.write('\n')
  const failed = await db.selectFrom('job').select('error').where('state', '!=', 'done').executeTakeFirst()
  if (failed) throw new Error(`The demo data could not be made: ${failed.error}`)
}

/** What cannot be read of the past year is told and left out: the application starts all the same. */
async function restoreYear(dataFolder: string): Promise<void> {
  try {
    for (const name of (await readdir(YEAR_FOLDER)).sort()) await restoreBackup(dataFolder, path.join(YEAR_FOLDER, name))
  } catch (error) {
    console.error(`\nThe demo goes on without the studio's past year: ${(error as Error).message}`)
  }
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
