import { mkdir, rename } from 'node:fs/promises'
import path from 'node:path'
import Joi from 'joi'
import { refusal } from '@/core/words'
import { storedReport, storedTaken } from '@/schemas'
import { deliveredFile, deliveredName, PICTURE_FORMATS, renderOf, takenWith } from '../../renders'
import type { JobKindWork } from '../kind'

interface Settings {
  format: (typeof PICTURE_FORMATS)[number]
}

/** Writes a render in the format asked for, to be fetched; it is kept with what can be made again. */
export const deliver: JobKindWork<'deliver', Settings> = {
  lane: 'files',
  settings: Joi.object<Settings>({ format: Joi.valid(...PICTURE_FORMATS).required() }),
  prepare: async ({ db, store: { folders }, job, settings: { format }, scratch }) => {
    const render = await renderOf(db, job.render_id!)
    const { settings } = storedReport(render.report_json)
    const taken = await takenWith(db, render)
    return {
      kind: 'deliver',
      picture: path.join(folders.render(render.folder), 'result.tif'),
      out: path.join(scratch, `picture.${format}`),
      bits: format === 'jpg' ? 8 : settings.bits,
      taken: taken ? storedTaken(taken) : {},
    }
  },
  finish: async ({ db, store: { folders }, job, settings: { format }, scratch }) => {
    const render = await renderOf(db, job.render_id!)
    const target = deliveredFile(folders, render, format)
    await mkdir(path.dirname(target), { recursive: true })
    await rename(path.join(scratch, `picture.${format}`), target).catch(() => {
      throw refusal('render.damaged')
    })
    return { name: await deliveredName(db, render.id, format) }
  },
}
