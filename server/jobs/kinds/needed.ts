import { readFile, rename, writeFile } from 'node:fs/promises'
import path from 'node:path'
import Joi from 'joi'
import { refusal } from '@/core/words'
import { storedNeeded, storedReport } from '@/schemas'
import { framesOfRender, lookFile, NEEDED_FILE, REGISTRATION_FILE, registrationIn, renderOf } from '../../renders'
import type { JobKindWork } from '../kind'

/** Fuses a run from fewer of its frames and keeps what that loses beside the picture. */
export const needed: JobKindWork<'needed', object> = {
  lane: 'engine',
  settings: Joi.object({}),
  prepare: async ({ db, store, job, scratch }) => {
    const render = await renderOf(db, job.render_id!)
    const { settings, parts = [], dust = [], mend } = storedReport(render.report_json)
    if (mend) throw refusal('needed.mended')
    const registration = path.join(scratch, REGISTRATION_FILE)
    await writeFile(registration, JSON.stringify(await registrationIn(store.folders, render)))
    return {
      kind: 'needed',
      frames: await Promise.all((await framesOfRender(db, render)).map((frame) => store.fileOf(frame))),
      registration,
      settings,
      parts: parts.map(({ x, y, width, height }) => ({ x, y, width, height })),
      dusty: dust.length > 0,
      report: path.join(scratch, NEEDED_FILE),
      looks: path.join(scratch, 'looks'),
    }
  },
  finish: async ({ db, store, job, scratch }) => {
    const render = await renderOf(db, job.render_id!)
    const folder = store.folders.render(render.folder)
    const found = storedNeeded(await readFile(path.join(scratch, NEEDED_FILE), 'utf8'))
    for (const { softest, frames } of found.subsets)
      if (softest) await rename(path.join(scratch, 'looks', `${frames.length}.png`), path.join(folder, lookFile(frames.length)))
    await rename(path.join(scratch, NEEDED_FILE), path.join(folder, NEEDED_FILE))
    await db
      .updateTable('render')
      .set({ needed_json: JSON.stringify(found) })
      .where('id', '=', render.id)
      .execute()
    return found
  },
}
