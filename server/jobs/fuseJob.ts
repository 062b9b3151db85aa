import { mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { FOLLOWING } from '@/core/register'
import { completePlanRequest, type FuseSettings } from '@/schemas'
import { now, type Database } from '../database'
import type { Environment } from '../environment'
import type { PictureStore } from '../pictures'
import { framesToFuse } from '../shoots'
import { runEngine } from './engine'
import type { JobWork } from './queue'

/** File of a render in which it stands how its frames were bent; absent in older renders whose frames were not. */
export const BENDS = 'bends.json'

/** Fuses the frames of a run in a scratch folder; the render exists from the moment all its files do. */
export function fuseJob(db: Database, environment: Environment, store: PictureStore): JobWork {
  return async (job, onEvent, signal) => {
    const scratch = store.folders.job(job.id)
    await rm(scratch, { recursive: true, force: true })
    await mkdir(scratch, { recursive: true })
    try {
      await store.checkRoom(1)
      const names = await framesToFuse(db, job.run_id)
      const args = fuseArguments(store.folders.frames(job.run_id), names, scratch, JSON.parse(job.settings_json))
      args.push('--so-far', store.folders.soFar(job.id))
      const end = await runEngine(environment.engine, [...args, ...(await depthArguments(db, job.run_id, names, scratch))], onEvent, signal)
      if (end.kind !== 'done') return end
      await rm(store.folders.soFar(job.id), { recursive: true, force: true })
      const bytes = await sizeOf(scratch)
      await store.checkRoom(bytes)
      const report_json = await readFile(path.join(scratch, 'report.json'), 'utf8')
      await db.transaction().execute(async (transaction) => {
        const render = await transaction
          .insertInto('render')
          .values({ run_id: job.run_id, job_id: job.id, report_json, bytes, created_at: now() })
          .returning('id')
          .executeTakeFirstOrThrow()
        await mkdir(path.dirname(store.folders.render(render.id)), { recursive: true })
        await rename(scratch, store.folders.render(render.id))
      })
      return end
    } finally {
      await rm(scratch, { recursive: true, force: true })
    }
  }
}

function fuseArguments(frames: string, names: string[], scratch: string, settings: FuseSettings): string[] {
  const args = ['fuse', frames, '--out', path.join(scratch, 'result.tif'), '--report', path.join(scratch, 'report.json')]
  args.push('--source-map', path.join(scratch, 'source.png'), '--depth', path.join(scratch, 'depth.png'))
  args.push('--confidence', path.join(scratch, 'confidence.png'), '--relief', path.join(scratch, 'relief.ply'))
  args.push('--style', settings.style, '--bits', String(settings.bits), '--crop', settings.crop)
  if (settings.reference) args.push('--reference', String(settings.reference))
  args.push('--frames', names.join(','))
  if (!settings.register) args.push('--no-register')
  args.push('--bends', path.join(scratch, BENDS))
  // Jobs that an older version left waiting say this otherwise, or not at all.
  if (FOLLOWING.includes(settings.localWarp)) args.push('--local-warp', settings.localWarp)
  return args
}

/** What makes depths millimetres: where each frame was focused, and how large a pixel is in the subject, where both are known. */
async function depthArguments(db: Database, runId: number, names: string[], scratch: string): Promise<string[]> {
  const frames = await db.selectFrom('frame').select(['name', 'position_mm', 'width']).where('run_id', '=', runId).execute()
  const known = new Map(frames.map(({ name, position_mm }) => [name, position_mm]))
  const positions = names.map((name) => known.get(name) ?? NaN)
  const rises = Math.sign(positions.at(-1)! - positions[0])
  if (positions.length < 2 || !positions.every((at, k) => Number.isFinite(at) && (k === 0 || Math.sign(at - positions[k - 1]) === rises))) return []
  const file = path.join(scratch, 'positions.json')
  await writeFile(file, JSON.stringify(Object.fromEntries(names.map((name, k) => [name, positions[k]]))))
  const { plan_json } = await db
    .selectFrom('run')
    .innerJoin('shoot', 'shoot.id', 'run.shoot_id')
    .select('shoot.plan_json')
    .where('run.id', '=', runId)
    .executeTakeFirstOrThrow()
  const { camera, optics } = completePlanRequest(JSON.parse(plan_json))
  const magnification = optics.kind === 'lens' ? optics.magnification : undefined
  const pixel = magnification ? ['--pixel-mm', String(camera.sensorWidth_mm / frames[0].width / magnification)] : []
  return ['--positions', file, ...pixel]
}

async function sizeOf(folder: string): Promise<number> {
  const sizes = await Promise.all((await readdir(folder)).map(async (name) => (await stat(path.join(folder, name))).size))
  return sizes.reduce((a, b) => a + b, 0)
}
