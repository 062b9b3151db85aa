import { randomUUID } from 'node:crypto'
import { link, mkdir, readdir, rename, rm, stat, writeFile } from 'node:fs/promises'
import path from 'node:path'
import Joi from 'joi'
import { framesOfBase, standingEdits, type MendDocument } from '@/core/mend'
import { now, type Database } from '@/database'
import { mendSchema, storedReport } from '@/schemas'
import { mendRow, renderNamed } from '../../mends'
import { framesOfRender, REGISTRATION_FILE, registrationIn, renderOf } from '../../renders'
import type { JobKindWork } from '../kind'

/** The mend, and its edits at the time of the request. */
export interface MendRequest {
  mend: number
  document: MendDocument
}

const settings = Joi.object<MendRequest>({ mend: Joi.number().integer().required(), document: mendSchema })

/** The pictures of other renders that are painted from, by the names that edits have for them. */
async function rendersIn(db: Database, { edits }: MendDocument, fileOf: (folder: string) => string): Promise<{ name: string; file: string }[]> {
  const names = [...new Set(edits.flatMap((edit) => (edit.kind === 'render' ? [edit.file] : [])))]
  return Promise.all(names.map(async (name) => ({ name, file: fileOf((await renderOf(db, renderNamed(name))).folder) })))
}

/** Files of a render that a mended one has in common with it. */
const SHARED = ['depth.png', 'confidence.png', 'source.png']

/** Carries out a mend. The mended picture is a new render; the one that it changes is kept. */
export const mend: JobKindWork<'mend', MendRequest> = {
  lane: 'engine',
  settings,
  prepare: async ({ db, store, job, settings: { document }, scratch }) => {
    await store.checkRoom(1)
    const render = await renderOf(db, job.render_id!)
    const folder = store.folders.render(render.folder)
    const registration = path.join(scratch, REGISTRATION_FILE)
    await writeFile(registration, JSON.stringify(await registrationIn(store.folders, render)))
    const names = new Set([...document.edits.flatMap((edit) => (edit.kind === 'donor' ? [edit.frame] : [])), ...framesOfBase(document.base)])
    const frames = await framesOfRender(db, render)
    await mkdir(path.join(scratch, 'made'))
    return {
      kind: 'mend',
      // Those that are painted from have to be there; for a gate alone the depth is.
      frames: await Promise.all(frames.filter(({ name }) => names.has(name)).map((frame) => store.fileOf(frame))),
      registration,
      picture: path.join(folder, 'result.tif'),
      depth: path.join(folder, 'depth.png'),
      document,
      renders: await rendersIn(db, document, (name) => path.join(store.folders.render(name), 'result.tif')),
      out: path.join(scratch, 'made', 'result.tif'),
    }
  },
  finish: async ({ db, store, job, settings: { mend: mendId, document }, scratch }) => {
    const before = await renderOf(db, job.render_id!)
    const made = path.join(scratch, 'made')
    const from = store.folders.render(before.folder)
    for (const name of (await readdir(from)).filter((known) => SHARED.includes(known))) await link(path.join(from, name), path.join(made, name))
    await rename(path.join(scratch, REGISTRATION_FILE), path.join(made, REGISTRATION_FILE))
    const { title, uid: mendUid } = await mendRow(db, mendId)
    const report = {
      ...storedReport(before.report_json),
      mend: { mend: mendUid, of: before.uid, title, edits: standingEdits(document.edits).length },
    }
    const report_json = JSON.stringify(report)
    await writeFile(path.join(made, 'report.json'), report_json)
    const { size: bytes } = await stat(path.join(made, 'result.tif'))
    await store.checkRoom(bytes)
    const uid = randomUUID()
    const folder = store.folders.render(uid)
    await rename(made, folder)
    try {
      const { id } = await db
        .insertInto('render')
        .values({ uid, folder: uid, run_id: before.run_id, job_id: job.id, report_json, bytes, created_at: now() })
        .returning('id')
        .executeTakeFirstOrThrow()
      return { render: id }
    } catch (error) {
      await rm(folder, { recursive: true, force: true })
      throw error
    }
  },
}
