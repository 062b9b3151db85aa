import { access, mkdir, rename, writeFile } from 'node:fs/promises'
import path from 'node:path'
import Joi from 'joi'
import type { Recipe } from '@/core/finish'
import { refusal } from '@/core/words'
import { FINISHED_FORMATS, recipeSchema, storedTaken, type FinishedFormat, type FinishJob } from '@/schemas'
import { framesOfRender } from '../../mends'
import { finishedFolder, finishedName, REGISTRATION_FILE, registrationIn, renderOf, takenWith } from '../../renders'
import type { JobAtWork, JobKindWork } from '../kind'

/** The recipe as it was when it was asked for; its name where it has one goes into the file's. */
export interface FinishRequest {
  recipe: Recipe
  format: FinishedFormat
  name?: string
}

const there = (file: string) =>
  access(file).then(
    () => file,
    () => undefined,
  )

/** The frames of a render that are still there, and how they lie: what layers are made of. */
async function beneath(
  { db, store, job }: Pick<JobAtWork<unknown>, 'db' | 'store' | 'job'>,
  scratch: string,
): Promise<Pick<FinishJob, 'frames' | 'registration'>> {
  const render = await renderOf(db, job.render_id!)
  const registration = path.join(scratch, REGISTRATION_FILE)
  await writeFile(registration, JSON.stringify(await registrationIn(store.folders, render)))
  return { frames: await Promise.all((await framesOfRender(db, render)).map((frame) => store.fileOf(frame))), registration }
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
    const layers = format === 'ora' ? await beneath({ db, store, job }, scratch) : {}
    return {
      kind: 'finish',
      ...layers,
      picture: path.join(folder, 'result.tif'),
      depth: await there(path.join(folder, 'depth.png')),
      confidence: await there(path.join(folder, 'confidence.png')),
      recipe,
      taken: taken ? storedTaken(taken) : {},
      out: path.join(scratch, `picture.${format}`),
    }
  },
  finish: async ({ db, store: { folders }, job, settings: { recipe, format, name }, scratch }) => {
    const render = await renderOf(db, job.render_id!)
    const called = await finishedName(db, render.id, recipe, format, name)
    const folder = finishedFolder(folders, render)
    await mkdir(folder, { recursive: true })
    await rename(path.join(scratch, `picture.${format}`), path.join(folder, called)).catch(() => {
      throw refusal('render.damaged')
    })
    return { name: called }
  },
}
