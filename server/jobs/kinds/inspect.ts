import { readFile, rename, writeFile } from 'node:fs/promises'
import path from 'node:path'
import Joi from 'joi'
import { storedPlaces } from '@/schemas'
import { framesOfRender, PLACES_FILE, REGISTRATION_FILE, registrationIn, renderOf } from '../../renders'
import type { JobKindWork } from '../kind'

/** Goes through a render for places that are worth a look, and keeps the list beside the picture. */
export const inspect: JobKindWork<'inspect', object> = {
  lane: 'look',
  settings: Joi.object({}),
  prepare: async ({ db, store, job, scratch }) => {
    const render = await renderOf(db, job.render_id!)
    const registration = path.join(scratch, REGISTRATION_FILE)
    await writeFile(registration, JSON.stringify(await registrationIn(store.folders, render)))
    return {
      kind: 'inspect',
      frames: await Promise.all((await framesOfRender(db, render)).map((frame) => store.fileOf(frame))),
      registration,
      picture: path.join(store.folders.render(render.folder), 'result.tif'),
      report: path.join(scratch, PLACES_FILE),
    }
  },
  finish: async ({ db, store, job, scratch }) => {
    const render = await renderOf(db, job.render_id!)
    const made = path.join(scratch, PLACES_FILE)
    const found = storedPlaces(await readFile(made, 'utf8'))
    await rename(made, path.join(store.folders.render(render.folder), PLACES_FILE))
    return found
  },
}
