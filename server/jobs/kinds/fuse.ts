import { randomUUID } from 'node:crypto'
import { mkdir, readdir, readFile, rename, rm, stat } from 'node:fs/promises'
import path from 'node:path'
import Joi from 'joi'
import { refusal } from '@/core/words'
import { now, type Folders, type Frame } from '@/database'
import { fuseSettingsSchema, storedPlan, storedReport, type FuseSettings } from '@/schemas'
import { REGISTRATION_FILE } from '../../renders'
import { framesToFuse } from '../../shoots/framesToFuse'
import type { JobAtWork, JobKindWork } from '../kind'

/** A render's settings, and the frames it was asked for by number, in focus order. Older jobs name none: those of their run. */
export type FuseRequest = FuseSettings & { frames?: number[] }

const settings = (fuseSettingsSchema as Joi.ObjectSchema).keys({ frames: Joi.array().items(Joi.number().integer()) }) as Joi.Schema<FuseRequest>

/** Fuses frames of a run in a scratch folder; the render exists from the moment all its files do. */
export const fuse: JobKindWork<'fuse', FuseRequest> = {
  lane: 'engine',
  settings,
  prepare: async (at) => {
    const { store, job, settings: asked, scratch } = at
    await store.checkRoom(1)
    const frames = await framesOf(at)
    if (frames.length < 2) throw refusal('run.tooFew', { count: frames.length })
    const { frames: _, ...fuseSettings } = asked
    await mkdir(path.join(scratch, 'made'))
    return {
      kind: 'fuse',
      frames: await Promise.all(frames.map((frame) => store.fileOf(frame))),
      settings: fuseSettings,
      outputs: {
        out: path.join(scratch, 'made', 'result.tif'),
        report: path.join(scratch, 'made', 'report.json'),
        registration: path.join(scratch, 'made', REGISTRATION_FILE),
        sourceMap: path.join(scratch, 'made', 'source.png'),
        depth: path.join(scratch, 'made', 'depth.png'),
        confidence: path.join(scratch, 'made', 'confidence.png'),
        soFar: store.folders.soFar(job.id),
        registered: await registeredFile(store.folders, job.run_id!),
      },
      ...(await depthsOf(at, frames)),
    }
  },
  finish: async ({ db, store, job, scratch }) => {
    const made = path.join(scratch, 'made')
    const bytes = await sizeOf(made)
    await store.checkRoom(bytes)
    const report_json = await readFile(path.join(made, 'report.json'), 'utf8')
    storedReport(report_json)
    // A name that was never used before: what an interrupted move left behind is in nobody's way.
    const uid = randomUUID()
    const folder = store.folders.render(uid)
    await mkdir(path.dirname(folder), { recursive: true })
    await rename(made, folder)
    try {
      const { id } = await db
        .insertInto('render')
        .values({ uid, folder: uid, run_id: job.run_id!, job_id: job.id, report_json, bytes, created_at: now() })
        .returning('id')
        .executeTakeFirstOrThrow()
      return { render: id }
    } catch (error) {
      await rm(folder, { recursive: true, force: true })
      throw error
    }
  },
}

/** Where the registration of a run is kept, for when fusing it is stopped, or asked for again in another style. */
async function registeredFile(folders: Folders, runId: number): Promise<string> {
  await mkdir(folders.derived('registered'), { recursive: true })
  return folders.derived('registered', `run-${runId}.bin`)
}

async function framesOf({ db, job, settings: { frames: ids } }: JobAtWork<FuseRequest>): Promise<Frame[]> {
  if (!ids) return framesToFuse(db, job.run_id!)
  const rows = await db.selectFrom('frame').selectAll().where('run_id', '=', job.run_id).where('binned_at', 'is', null).execute()
  const byId = new Map(rows.map((frame) => [frame.id, frame]))
  return ids.map((id) => {
    const frame = byId.get(id)
    if (!frame) throw refusal('frame.gone')
    return frame
  })
}

/** What makes depths millimetres: where each frame was focused, and how large a pixel is on the subject, where both are known. */
async function depthsOf({ db, job }: JobAtWork<FuseRequest>, frames: Frame[]): Promise<{ positions_mm?: number[]; pixel_mm?: number }> {
  const positions = frames.map(({ position_mm }) => position_mm ?? NaN)
  const rises = Math.sign(positions.at(-1)! - positions[0])
  const known = positions.every((at, k) => Number.isFinite(at) && (k === 0 || Math.sign(at - positions[k - 1]) === rises))
  if (positions.length < 2 || !known) return {}
  // As the run was shot: a shoot may have been planned otherwise since.
  const { plan_json } = await db.selectFrom('run').select('plan_json').where('id', '=', job.run_id).executeTakeFirstOrThrow()
  const plan = storedPlan(plan_json)
  if (!plan) return { positions_mm: positions }
  const { camera, optics } = plan
  const magnification = optics.kind === 'lens' ? optics.magnification : undefined
  return { positions_mm: positions, ...(magnification && { pixel_mm: camera.sensorWidth_mm / frames[0].width / magnification }) }
}

async function sizeOf(folder: string): Promise<number> {
  const sizes = await Promise.all((await readdir(folder)).map(async (name) => (await stat(path.join(folder, name))).size))
  return sizes.reduce((a, b) => a + b, 0)
}
