import { spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { writeFile } from 'node:fs/promises'
import path from 'node:path'
import sharp from 'sharp'
import { AS_IT_IS } from '@/core/finish'
import type { JobDetail } from '@/schemas'
import { finishedFile, jobDetail, KEPT_FILES, keptFile } from '.'
import { enginePids, picture, refusedWith, TestServer } from './testServer'

let server: TestServer
beforeEach(async () => {
  server = await TestServer.start()
})
afterEach(() => server.stop())

/** A series of small simulated frames in a folder. */
async function smallSeries(where: string, count = 3): Promise<void> {
  const scene = path.join(server.folder, 'scene.json')
  await writeFile(
    scene,
    JSON.stringify({
      scene: 'bristles',
      camera: { width_px: 160, height_px: 120, mover: 'ring' },
      positions_mm: Array.from({ length: count }, (_, k) => k * 2),
    }),
  )
  const { status, stderr } = spawnSync(process.execPath, ['dist/nitidus.mjs', 'simulate', scene, '--out', where], { encoding: 'utf8' })
  if (status !== 0) throw new Error(stderr)
}

describe('jobs', () => {
  const settings = { style: 'lace', bits: 16, crop: 'common', register: true, localWarp: 'whereMoved' }

  async function seriesRun(count = 3): Promise<{ shootId: number; runId: number }> {
    await smallSeries(path.join(server.folder, 'import', 'series'), count)
    const shootId = await server.newShoot()
    const runId = await server.context.shoots.addRun(shootId, 'imported')
    await server.addFolder(runId, 'series')
    return { shootId, runId }
  }

  const ended = async (jobId: number): Promise<JobDetail> => {
    await server.context.jobs.idle()
    return jobDetail(await server.context.db.selectFrom('job').selectAll().where('id', '=', jobId).executeTakeFirstOrThrow())
  }

  test('a series is fused, kept and delivered under a name that says how', async () => {
    const { shootId, runId } = await seriesRun()
    const { folders } = server.context.store
    const looks: boolean[] = []
    server.context.jobs.events.on('any', (job) => {
      if (job.state === 'running' && JSON.parse(job.progress_json ?? '{}').soFar)
        looks.push(['picture.jpg', 'depth.png'].every((name) => existsSync(path.join(folders.soFar(job.id), name))))
    })
    const { id } = await server.context.jobs.add('fuse', { shoot_id: shootId, run_id: runId }, settings)
    expect(await ended(id)).toMatchObject({ state: 'done', error: null })
    expect(looks[0]).toBe(true)
    const [{ renders }] = (await server.context.shoots.detail(shootId)).runs
    expect(renders).toHaveLength(1)
    expect(renders[0].report.frameCount).toBe(3)
    const { db, jobs, work } = server.context
    const kept = await Promise.all(
      KEPT_FILES.map(async (what) => {
        const { name, file } = await keptFile(db, folders, renders[0].id, what)
        expect(existsSync(file)).toBe(true)
        return name
      }),
    )
    const stem = 'ribbed-coil-fossil-drawer-c-17_run1_lace_ref02'
    expect(kept).toEqual([`${stem}_depth.png`, `${stem}_confidence.png`, `${stem}.json`])
    const { name } = await jobs.outcome<'finish'>(await work.finish(renders[0].id, { recipe: AS_IT_IS, format: 'tif' }))
    expect(name).toBe(`${stem}_16bit.tif`)
    expect((await sharp((await finishedFile(db, folders, renders[0].id, name)).file).metadata()).depth).toBe('ushort')
    expect(existsSync(server.context.store.folders.job(id))).toBe(false)
  })

  test('a job rests before its next frame and goes on, with the same result', async () => {
    const { shootId, runId } = await seriesRun(4)
    const { jobs, db } = server.context
    const told: { resting?: true; frame: number }[] = []
    jobs.events.on('any', ({ progress_json }) => progress_json && told.push(JSON.parse(progress_json)))
    const begun = new Promise((resolve) => jobs.events.once('any', () => jobs.events.once('any', resolve)))
    const { id } = await jobs.add('fuse', { shoot_id: shootId, run_id: runId }, settings)
    await begun
    await jobs.rest(id, true)
    while (!told.at(-1)?.resting) await new Promise((done) => setTimeout(done, 50))
    const count = told.length
    await new Promise((done) => setTimeout(done, 1200))
    expect(told).toHaveLength(count)
    // A screen that is opened now shows it too.
    const { progress_json } = await db.selectFrom('job').select('progress_json').where('id', '=', id).executeTakeFirstOrThrow()
    expect(JSON.parse(progress_json!).resting).toBe(true)
    await jobs.rest(id, false)
    const { render } = await jobs.outcome<'fuse'>({ id })
    const { render: whole } = await jobs.outcome<'fuse'>(await jobs.add('fuse', { shoot_id: shootId, run_id: runId }, settings))
    const depths = await Promise.all([render, whole].map(async (one) => sharp((await keptFile(db, server.context.store.folders, one, 'depth')).file).raw().toBuffer())) // prettier-ignore
    expect(depths[0].equals(depths[1])).toBe(true)
    await expect(jobs.rest(99_999, true)).rejects.toEqual(refusedWith('job.gone'))
  })

  test('the simulated camera fills a run frame by frame', async () => {
    const shootId = await server.newShoot()
    const runId = await server.context.shoots.addRun(shootId, 'simulated')
    const seen: string[] = []
    server.context.jobs.events.on('any', ({ progress_json }) => progress_json && seen.push(JSON.parse(progress_json).file))
    const request = { scene: 'bristles', seed: 1, camera: { width_px: 160, height_px: 120, mover: 'rail' }, positions_mm: [1, 3] }
    const { id } = await server.context.jobs.add('shoot', { shoot_id: shootId, run_id: runId }, request)
    expect(await ended(id)).toMatchObject({ state: 'done' })
    const [{ frames }] = (await server.context.shoots.detail(shootId)).runs
    expect(frames.map(({ name, position_mm }) => [name, position_mm])).toEqual([
      ['frame_001.jpg', 1],
      ['frame_002.jpg', 3],
    ])
    expect(frames[0].exif).toMatchObject({ body: 'Body A', focalLength_mm: 100 })
    expect(seen).toContain('frame_002.jpg')
  })

  test('a bad series fails with the engine’s sentence and leaves no render', async () => {
    const shootId = await server.newShoot()
    const runId = await server.context.shoots.addRun(shootId, 'imported')
    await server.add(runId, 'a.jpg', await picture())
    const { id } = await server.context.jobs.add('fuse', { shoot_id: shootId, run_id: runId }, settings)
    const job = await ended(id)
    expect(job.state).toBe('failed')
    expect(job.error_code).toBe('run.tooFew')
    expect((await server.context.shoots.detail(shootId)).runs[0].renders).toEqual([])
  })

  test('an engine that is killed ends its job with a sentence; frames stay and it can run again', async () => {
    const { shootId, runId } = await seriesRun(6)
    server.context.jobs.events.on('any', ({ progress_json, state }) => {
      if (state === 'running' && progress_json?.includes('register')) for (const pid of enginePids(server)) process.kill(pid, 'SIGKILL')
    })
    const { id } = await server.context.jobs.add('fuse', { shoot_id: shootId, run_id: runId }, settings)
    const job = await ended(id)
    expect(job).toMatchObject({ state: 'failed' })
    expect(job.error_code).toBe('job.killed')
    server.context.jobs.events.removeAllListeners('any')
    expect(await server.framesOf(runId)).toHaveLength(6)
    expect(existsSync(server.context.store.folders.job(id))).toBe(false)
    const again = await server.context.jobs.add('fuse', { shoot_id: shootId, run_id: runId }, settings)
    expect(await ended(again.id)).toMatchObject({ state: 'done' })
  })

  test('cancelling ends a running job at once and a waiting one before it starts', async () => {
    const { shootId, runId } = await seriesRun(6)
    const first = await server.context.jobs.add('fuse', { shoot_id: shootId, run_id: runId }, settings)
    const second = await server.context.jobs.add('fuse', { shoot_id: shootId, run_id: runId }, settings)
    await new Promise<void>((resolve) => server.context.jobs.events.on('any', ({ progress_json }) => progress_json && resolve()))
    await server.context.jobs.cancel(second.id)
    const asked = Date.now()
    await server.context.jobs.cancel(first.id)
    while (enginePids(server).length > 0 && Date.now() - asked < 5000) await new Promise((resolve) => setTimeout(resolve, 20))
    // Its memory and its processor go with the process.
    expect(Date.now() - asked).toBeLessThan(1000)
    expect(await ended(first.id)).toMatchObject({ state: 'cancelled' })
    expect(await ended(second.id)).toMatchObject({ state: 'cancelled' })
    expect((await server.context.shoots.detail(shootId)).runs[0].renders).toEqual([])
  })

  test('a job that is cancelled in the instant in which it begins is cancelled, and stores nothing', async () => {
    const { shootId, runId } = await seriesRun()
    const states = new Map<string, number>()
    for (let turns = 0; turns < 24; turns++) {
      const { id } = await server.context.jobs.add('fuse', { shoot_id: shootId, run_id: runId }, settings)
      for (let turn = 0; turn < turns; turn++) await Promise.resolve()
      await server.context.jobs.cancel(id)
      const { state } = await ended(id)
      states.set(state, (states.get(state) ?? 0) + 1)
    }
    expect([...states.keys()]).toEqual(['cancelled'])
    expect((await server.context.shoots.detail(shootId)).runs[0].renders).toEqual([])
  })

  test('freeing storage leaves the files that a running job uses', async () => {
    const { shootId, runId } = await seriesRun(6)
    const { jobs, storage } = server.context
    const { id } = await jobs.add('fuse', { shoot_id: shootId, run_id: runId }, settings)
    let freed = 0
    for (; ['queued', 'running'].includes((await jobs.job(id)).state); freed++) await storage.free()
    expect(freed).toBeGreaterThan(5)
    expect(await ended(id)).toMatchObject({ state: 'done', error: null })
  })

  test('two jobs follow one another, never at once', async () => {
    const { shootId, runId } = await seriesRun()
    const states: string[] = []
    server.context.jobs.events.on('any', ({ id, state, progress_json }) => {
      if (state !== 'queued' && !progress_json) states.push(`${id} ${state}`)
      else if (state === 'done') states.push(`${id} ${state}`)
    })
    const [first, second] = [
      await server.context.jobs.add('fuse', { shoot_id: shootId, run_id: runId }, settings),
      await server.context.jobs.add('fuse', { shoot_id: shootId, run_id: runId }, { ...settings, style: 'mellow' }),
    ]
    await server.context.jobs.idle()
    expect(states).toEqual([`${first.id} running`, `${first.id} done`, `${second.id} running`, `${second.id} done`])
  })

  test('memory that runs out ends one job with a sentence; the next one is done', async () => {
    const { shootId, runId } = await seriesRun()
    process.env.NITIDUS_MEMORY_MB = '1'
    const short = await server.context.jobs.add('fuse', { shoot_id: shootId, run_id: runId }, settings).finally(() => server.context.jobs.idle())
    delete process.env.NITIDUS_MEMORY_MB
    const next = await server.context.jobs.add('fuse', { shoot_id: shootId, run_id: runId }, settings)
    expect(await ended(short.id)).toMatchObject({ state: 'failed', error_code: 'memory.tooLittle' })
    expect(await ended(next.id)).toMatchObject({ state: 'done', error: null })
    expect(await server.framesOf(runId)).toHaveLength(3)
  })

  test('a missing engine is a failed job, not a dead server', async () => {
    const { shootId, runId } = await seriesRun()
    const lame = await server.open({ NITIDUS_ENGINE: path.join(server.folder, 'nothing.mjs') })
    const { id } = await lame.jobs.add('fuse', { shoot_id: shootId, run_id: runId }, settings)
    await lame.jobs.idle()
    expect(await ended(id)).toMatchObject({ state: 'failed' })
  })

  test('what was running when the server stopped is marked, what waited is taken up', async () => {
    const shootId = await server.newShoot()
    const runId = await server.context.shoots.addRun(shootId, 'imported')
    const row = { shoot_id: shootId, run_id: runId, kind: 'fuse' as const, settings_json: JSON.stringify(settings), created_at: 'then' }
    await server.context.db
      .insertInto('job')
      .values([
        { ...row, state: 'running' },
        { ...row, state: 'queued' },
      ])
      .execute()
    const later = await server.open()
    await later.jobs.idle()
    const jobs = await later.db.selectFrom('job').select(['state', 'error_code']).orderBy('id').execute()
    expect(jobs[0]).toMatchObject({ state: 'interrupted' })
    expect(jobs[0].error_code).toBe('job.interrupted')
    expect(jobs[1]).toMatchObject({ state: 'failed', error_code: 'run.tooFew' })
  })
})
