import { mkdir, rename } from 'node:fs/promises'
import path from 'node:path'
import Joi from 'joi'
import { fittedRecipe, withFacts, type Recipe } from '@/core/finish'
import { refusal } from '@/core/words'
import type { Database, Folders, Render } from '@/database'
import { FINISHED_FORMATS, fileEnding, LAYERED, recipeSchema, storedReport, storedTaken, type FinishedFormat } from '@/schemas'
import { captionFactsOf } from '../../captionFacts'
import { finishedFolder, finishedName, renderOf, takenWith } from '../../renders'
import type { JobKindWork } from '../kind'
import { madeForOf } from '../../surface'
import { beneath, there } from './beneath'

/** The recipe at the time of the request; its name, if it has one, becomes part of the file's. */
export interface FinishRequest {
  recipe: Recipe
  format: FinishedFormat
  name?: string
}

/** The picture that a mended render changes, if it still exists. */
async function fusedBefore(db: Database, folders: Folders, { report_json }: Render): Promise<string | undefined> {
  const { mend } = storedReport(report_json)
  if (!mend) return undefined
  const before = await db.selectFrom('render').select('folder').where('uid', '=', mend.of).executeTakeFirst()
  return before && there(path.join(folders.render(before.folder), 'result.tif'))
}

/** Carries out a recipe on a render, to be fetched; the file is kept with what can be made again. */
export const finish: JobKindWork<'finish', FinishRequest> = {
  lane: 'files',
  settings: Joi.object<FinishRequest>({
    recipe: recipeSchema,
    format: Joi.valid(...FINISHED_FORMATS).required(),
    name: Joi.string().max(120),
  }),
  prepare: async ({ db, store, job, settings: { recipe, format }, scratch }) => {
    const { folders } = store
    const render = await renderOf(db, job.render_id!)
    const folder = folders.render(render.folder)
    const taken = await takenWith(db, render)
    const fitted = fittedRecipe(recipe, await madeForOf(db, render))
    const layers = LAYERED.includes(format) ? { ...(await beneath({ db, store, job }, scratch)), fused: await fusedBefore(db, folders, render) } : {}
    return {
      kind: 'finish',
      ...layers,
      picture: path.join(folder, 'result.tif'),
      depth: await there(path.join(folder, 'depth.png')),
      confidence: await there(path.join(folder, 'confidence.png')),
      recipe: { ...fitted, steps: withFacts(fitted.steps, await captionFactsOf(db, render)) },
      taken: taken ? storedTaken(taken) : {},
      out: path.join(scratch, `picture.${fileEnding(format)}`),
    }
  },
  finish: async ({ db, store: { folders }, job, settings: { recipe, format, name }, scratch }) => {
    const render = await renderOf(db, job.render_id!)
    const called = await finishedName(db, render.id, recipe, format, name)
    const folder = finishedFolder(folders, render)
    await mkdir(folder, { recursive: true })
    await rename(path.join(scratch, `picture.${fileEnding(format)}`), path.join(folder, called)).catch(() => {
      throw refusal('render.damaged')
    })
    return { name: called }
  },
}
