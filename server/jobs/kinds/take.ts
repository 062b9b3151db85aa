import { mkdir, rename } from 'node:fs/promises'
import path from 'node:path'
import Joi from 'joi'
import { refusal } from '@/core/words'
import { TAKE_NAMES, type Take, type TakeEnding } from '@/schemas'
import { finishedFolder, renderOf, takenAlongName } from '../../renders'
import { surfaceFactsOf } from '../../surface'
import type { JobKindWork } from '../kind'
import { beneath, there } from './beneath'

/** What is taken along, and as which kind of file. */
export interface TakeRequest {
  what: Take
  ending: TakeEnding
}

/** Needs the frames themselves; the others only the picture and its maps. */
const OF_FRAMES: readonly Take[] = ['frames', 'masks', 'focusRun']

/** Writes something to take along of a render, to be fetched; the file is kept with what can be made again. */
export const take: JobKindWork<'take', TakeRequest> = {
  lane: 'files',
  settings: Joi.object<TakeRequest>({ what: Joi.valid(...TAKE_NAMES).required(), ending: Joi.string().alphanum().max(5).required() }),
  prepare: async ({ db, store, job, settings: { what, ending }, scratch }) => {
    await store.checkRoom(1)
    const render = await renderOf(db, job.render_id!)
    const folder = store.folders.render(render.folder)
    const map = (name: string) => there(path.join(folder, name))
    return {
      kind: 'take',
      what,
      ...(OF_FRAMES.includes(what) ? await beneath({ db, store, job }, scratch) : {}),
      picture: path.join(folder, 'result.tif'),
      depth: await map('depth.png'),
      confidence: await map('confidence.png'),
      sourceMap: await map('source.png'),
      surface: await surfaceFactsOf(db, render),
      out: path.join(scratch, `taken.${ending}`),
    }
  },
  finish: async ({ db, store: { folders }, job, settings: { what, ending }, scratch }) => {
    const render = await renderOf(db, job.render_id!)
    const called = await takenAlongName(db, render.id, what, ending)
    const folder = finishedFolder(folders, render)
    await mkdir(folder, { recursive: true })
    await rename(path.join(scratch, `taken.${ending}`), path.join(folder, called)).catch(() => {
      throw refusal('render.damaged')
    })
    return { name: called }
  },
}
