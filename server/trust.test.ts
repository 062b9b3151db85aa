import { execFileSync, spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { mkdir, readdir, rm, stat, symlink, truncate, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { sql } from 'kysely'
import { NIB } from '@/demo/scenario'
import { planSeries } from '@/core/plan'
import { closeContext, context, registrationIn, renderOf } from '.'
import { demoShoot, enginePids, picture, TestServer } from './testServer'

let server: TestServer
beforeEach(async () => {
  server = await TestServer.start()
})
afterEach(() => server.stop())

const at = (...parts: string[]) => path.join(server.folder, ...parts)
const SETTINGS = { style: 'auto', bits: 16, crop: 'none', register: false, localWarp: 'never' } as const

/** A run of small frames that can be fused, and the pictures. */
async function run(count = 3): Promise<{ shootId: number; runId: number; pictures: Buffer[] }> {
  const shootId = await server.newShoot()
  const runId = await server.context.shoots.addRun(shootId, 'imported')
  const pictures = await Promise.all(Array.from({ length: count }, (_, k) => picture(64, 48, `#${k + 1}${k + 1}${k + 1}`)))
  for (const [k, contents] of pictures.entries()) await server.add(runId, `f${k}.jpg`, contents)
  return { shootId, runId, pictures }
}

const fuse = async (runId: number) => server.context.jobs.outcome<'fuse'>(await server.context.work.fuse(runId, SETTINGS))

describe('records that stay true', () => {
  test('a run is measured by the plan it was shot by, whatever is planned later', async () => {
    const { shootId, runId } = await run(0)
    await server.context.shoots.replan(shootId, { ...demoShoot, plan: NIB.plan })
    const { runs, planRequest } = await server.context.shoots.detail(shootId)
    expect(planSeries(runs[0].planRequest).magnification).toBe(planSeries((await detailOf(await server.newShoot())).planRequest).magnification)
    expect(planSeries(planRequest).magnification).not.toBe(planSeries(runs[0].planRequest).magnification)
    // And so is what it is fused with: the size of a pixel on the subject.
    for (const [k, position_mm] of [0, 1, 2].entries())
      await server.context.store.add(runId, `g${k}.jpg`, (await import('node:stream')).Readable.from([await picture(64, 48, `#3${k}5`)]), position_mm)
    const { render } = await fuse(runId)
    const { folders } = server.context.store
    const kept = await renderOf(server.context.db, render)
    const ply = execFileSync('head', ['-c', '400', path.join(folders.render(kept.folder), 'relief.ply')], { encoding: 'utf8' })
    expect(ply).toContain('x, y and z in mm')
  })

  const detailOf = (shootId: number) => server.context.shoots.detail(shootId)

  test('what is fused is decided when it is asked for, by number', async () => {
    const { runId, shootId } = await run(4)
    const blocker = await server.context.work.fuse(runId, SETTINGS)
    const job = await server.context.work.fuse(runId, SETTINGS)
    const { runs } = await detailOf(shootId)
    await server.context.shoots.setAside(runs[0].frames[3].id, true)
    await server.context.jobs.outcome(blocker)
    const { render } = await server.context.jobs.outcome<'fuse'>(job)
    const report = (await detailOf(shootId)).runs[0].renders.find(({ id }) => id === render)!.report
    expect(report.frames.map(({ id }) => id)).toEqual(runs[0].frames.map(({ id }) => id))
    expect(report.version).toBe(2)
  })

  test('the registration of a new and of an older render are read by one reader', async () => {
    const { runId } = await run()
    const { render } = await fuse(runId)
    const kept = await renderOf(server.context.db, render)
    const { folders } = server.context.store
    const now = await registrationIn(folders, kept)
    expect(now).toMatchObject({ version: 2, reference: 'f1.jpg', frames: [{ file: 'f0.jpg', scale: 1 }, { file: 'f1.jpg' }, { file: 'f2.jpg' }] })
    await rm(path.join(folders.render(kept.folder), 'registration.json'))
    await writeFile(path.join(folders.render(kept.folder), 'bends.json'), '{"frames":{}}')
    expect(await registrationIn(folders, kept)).toEqual(now)
    await writeFile(path.join(folders.render(kept.folder), 'registration.json'), '{"version":2,"frames":"none"}')
    await expect(registrationIn(folders, kept)).rejects.toMatchObject({ code: 'render.damaged' })
  })

  test('stored JSON that is not what it should be is told, not crashed on', async () => {
    const { shootId } = await run(0)
    await server.context.db.updateTable('shoot').set({ plan_json: '{"optics": 7}' }).where('id', '=', shootId).execute()
    await expect(detailOf(shootId)).rejects.toMatchObject({ code: 'shoot.unreadable' })
    expect(await server.context.shoots.list()).toMatchObject([{ id: shootId, plan: null }])
  })

  test('a data folder of an older version opens with all its runs and renders, and they work', async () => {
    await server.context.close()
    await rm(server.folder, { recursive: true })
    await mkdir(server.folder)
    execFileSync('tar', ['xzf', path.resolve('database/testData/data-005.tar.gz'), '-C', server.folder])
    const { shoots, store, db, jobs, work } = await server.open()
    const [shoot] = (await shoots.list()).filter(({ state }) => state === 'fused')
    const { runs, field } = await shoots.detail(shoot.id)
    expect(runs.map(({ frames, renders }) => [frames.length, renders.length])).toEqual([
      [4, 0],
      [6, 2],
    ])
    expect(runs.flatMap(({ frames }) => frames).every(({ here }) => here)).toBe(true)
    expect(runs[0].frames.find(({ aside }) => aside)!.name).toBe('frame_004.jpg')
    expect(runs[1].survey!.frames).toHaveLength(6)
    expect(field).toHaveLength(2)
    for (const { id } of runs[1].renders) {
      expect((await registrationIn(store.folders, await renderOf(db, id))).frames).toHaveLength(6)
      await jobs.outcome<'deliver'>((await work.deliver(id, 'jpg'))!)
    }
    expect(await jobs.outcome<'check'>(await jobs.add('check', {}, {}))).toEqual({ checked: 10, missing: [], changed: [] })
    await jobs.outcome<'survey'>(await work.survey(runs[0].id))
  })
})

describe('nothing lost, nothing stuck', () => {
  test('what an interrupted move left behind is in no later render’s way', async () => {
    const { runId } = await run()
    for (const name of ['1', '2', '3']) await mkdir(at('renders', name, 'left-over'), { recursive: true })
    expect(await fuse(runId)).toEqual({ render: 1 })
    expect(await fuse(runId)).toEqual({ render: 2 })
  })

  test('a job whose end cannot be written ends when it can, and nothing is unhandled meanwhile', async () => {
    const { runId } = await run()
    const { db, jobs, work } = server.context
    const unhandled: unknown[] = []
    const note = (error: unknown) => unhandled.push(error)
    process.on('unhandledRejection', note)
    await sql`create trigger full before update of state on job when new.state in ('done', 'failed') begin select raise(abort, 'database or disk is full'); end`.execute(
      db,
    )
    const complained = jest.spyOn(console, 'error').mockImplementation(() => undefined)
    const job = await work.fuse(runId, SETTINGS)
    await jobs.idle()
    expect((await jobs.job(job.id)).state).toBe('running')
    await sql`drop trigger full`.execute(db)
    await jobs.outcome(job)
    complained.mockRestore()
    process.off('unhandledRejection', note)
    expect(unhandled).toEqual([])
  })

  test('a job that is said to run while nothing runs it can be cancelled; one that never was is told', async () => {
    const { runId, shootId } = await run(0)
    const { db, jobs } = server.context
    const { id } = await db
      .insertInto('job')
      .values({ kind: 'fuse', shoot_id: shootId, run_id: runId, state: 'running', settings_json: '{}', created_at: 'then' })
      .returning('id')
      .executeTakeFirstOrThrow()
    await jobs.cancel(id)
    expect((await jobs.job(id)).state).toBe('cancelled')
    await expect(jobs.cancel(4711)).rejects.toMatchObject({ code: 'job.gone' })
  })

  test('frames of two shapes that come at once do not both come in; nor do two of one name; and nothing fails otherwise', async () => {
    const [wide, high] = [await picture(60, 40), await picture(40, 60)]
    for (let time = 0; time < 6; time++) {
      const runId = await server.newRun()
      const ends = await Promise.allSettled([server.add(runId, 'a.jpg', wide), server.add(runId, 'b.jpg', high)])
      expect(ends.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected'])
      expect(ends.find(({ status }) => status === 'rejected')).toMatchObject({ reason: { code: 'frame.size' } })
      const again = await server.newRun()
      const twins = await Promise.allSettled([server.add(again, 'a.jpg', wide), server.add(again, 'a.jpg', wide)])
      expect(twins.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected'])
      expect(twins.find(({ status }) => status === 'rejected')).toMatchObject({ reason: { code: 'frame.nameTaken' } })
    }
  })

  test('a run that does not exist gets no folder', async () => {
    await expect(server.add(4711, 'a.jpg', await picture())).rejects.toMatchObject({ code: 'run.gone' })
    expect(existsSync(at('runs', '4711'))).toBe(false)
    expect(await readdir(at('incoming')).catch(() => [])).toEqual([])
  })

  test('scratch of an earlier life is cleared at the start, and so is what was made with wrong colours', async () => {
    await mkdir(at('jobs', '7', 'made'), { recursive: true })
    await mkdir(at('derived', 'thumbs'), { recursive: true })
    await mkdir(at('derived', 'v2', 'thumbs'), { recursive: true })
    await server.open()
    expect(existsSync(at('jobs', '7'))).toBe(false)
    expect(await readdir(at('derived'))).toEqual(['v2'])
  })

  test('a frame whose file is gone or emptied is told, found by a check, and put back by the same file only', async () => {
    const { runId, shootId, pictures } = await run()
    const { store, jobs, work } = server.context
    await rm(store.folders.frame(runId, 'f0.jpg'))
    await truncate(store.folders.frame(runId, 'f1.jpg'), 0)
    const frames = async () => (await server.context.shoots.detail(shootId)).runs[0].frames
    expect((await frames()).map(({ here }) => here)).toEqual([false, false, true])
    const [lost, emptied, third] = await frames()
    await writeFile(store.folders.frame(runId, 'f2.jpg'), Buffer.concat([pictures[2].subarray(0, -4), Buffer.alloc(4)]))
    expect(await jobs.outcome<'check'>(await jobs.add('check', {}, {}))).toEqual({ checked: 3, missing: [lost.id], changed: [emptied.id, third.id] })
    await expect(fuse(runId)).rejects.toMatchObject({ code: 'frame.fileGone' })
    await expect(server.add(runId, 'f0.jpg', pictures[1])).rejects.toMatchObject({ code: 'frame.otherFile' })
    for (const [k, contents] of pictures.entries()) expect((await server.add(runId, `f${k}.jpg`, contents)).id).toBe((await frames())[k].id)
    expect((await frames()).map(({ here }) => here)).toEqual([true, true, true])
    expect(await jobs.outcome<'check'>(await jobs.add('check', {}, {}))).toMatchObject({ missing: [], changed: [] })
    await expect(server.add(runId, 'f0.jpg', pictures[0])).rejects.toMatchObject({ code: 'frame.nameTaken' })
    await jobs.outcome(await work.fuse(runId, SETTINGS))
  })

  test('a folder with bad files in it gives its good ones, and says what is wrong with the others', async () => {
    const card = at('import', 'card')
    await mkdir(path.join(card, 'c.jpg'), { recursive: true })
    for (const name of ['a.jpg', 'e.jpg']) await writeFile(path.join(card, name), await picture())
    await writeFile(path.join(card, 'b.jpg'), 'no picture')
    await writeFile(path.join(card, 'f.jpg'), await picture(30, 30))
    spawnSync('mkfifo', [path.join(card, 'd.jpg')])
    await writeFile(at('secret.jpg'), await picture())
    await symlink(at('secret.jpg'), path.join(card, 'g.jpg'))
    await symlink(path.join(card, 'a.jpg'), path.join(card, 'h.jpg'))
    const runId = await server.newRun()
    const { taken, refused } = await server.context.store.addFolder(runId, 'card')
    expect(taken).toBe(3)
    expect(await server.framesOf(runId)).toEqual(['a.jpg', 'e.jpg', 'h.jpg'])
    expect(refused.map(({ name, code }) => [name, code])).toEqual([
      ['b.jpg', 'picture.unreadable'],
      ['c.jpg', 'picture.unreadable'],
      ['d.jpg', 'picture.unreadable'],
      ['f.jpg', 'frame.size'],
      ['g.jpg', 'folder.outside'],
    ])
  })

  test('what kept the application from opening is told, and once it is mended the next call opens it', async () => {
    const folder = at('other')
    await writeFile(folder, 'a file in the way')
    process.env.NITIDUS_DATA = folder
    await expect(context()).rejects.toMatchObject({ code: 'disk.denied' })
    await rm(folder)
    expect((await (await context()).shoots.list()).length).toBe(0)
    await closeContext()
    delete process.env.NITIDUS_DATA
  })

  test('closing ends what runs, and the next start says that it was interrupted', async () => {
    const { runId } = await run(3)
    const { jobs, work } = server.context
    const job = await work.fuse(runId, { ...SETTINGS, register: true })
    while (enginePids(server).length === 0) await new Promise((resolve) => setTimeout(resolve, 10))
    const closing = performance.now()
    await server.context.close()
    expect(performance.now() - closing).toBeLessThan(4000)
    expect(enginePids(server)).toEqual([])
    await server.open()
    expect(await server.context.jobs.job(job.id)).toMatchObject({ state: 'interrupted', error_code: 'job.interrupted' })
    expect(jobs).toBeDefined()
  })
})

describe('the bin', () => {
  test.each(['shoot', 'run', 'frame', 'render'] as const)(
    'a %s goes there, comes back as it was, and goes for good when the bin is emptied',
    async (kind) => {
      const { shootId, runId, pictures } = await run()
      const { render } = await fuse(runId)
      const { bin, db, store, shoots } = server.context
      const frame = await db.selectFrom('frame').selectAll().where('run_id', '=', runId).orderBy('id').executeTakeFirstOrThrow()
      const id = { shoot: shootId, run: runId, frame: frame.id, render }[kind]
      const before = await shoots.list()
      const folder = store.folders.render((await renderOf(db, render)).folder)
      await bin.put(kind, id)
      await expect(bin.put(kind, id)).rejects.toMatchObject({ code: `${kind}.gone` })
      expect(await shoots.list()).not.toEqual(before)
      const [binned] = await bin.list()
      expect(binned).toMatchObject({ kind, id })
      expect(binned.bytes).toBeGreaterThan(0)
      await bin.putBack(kind, id)
      expect(await shoots.list()).toEqual(before)
      await expect(bin.putBack(kind, id)).rejects.toMatchObject({ code: 'bin.gone' })

      await bin.put(kind, id)
      // Too early: it is kept for 30 days.
      expect(await bin.empty()).toBe(0)
      await db
        .updateTable(kind)
        .set({ binned_at: new Date(Date.now() - 31 * 86_400_000).toISOString() })
        .where('id', '=', id)
        .execute()
      expect(await bin.empty()).toBe(1)
      expect(await bin.list()).toEqual([])
      const frames = await db.selectFrom('frame').select('id').execute()
      expect(frames).toHaveLength({ shoot: 0, run: 0, frame: 2, render: 3 }[kind])
      expect(existsSync(store.folders.frame(runId, frame.file))).toBe(kind === 'render')
      expect(existsSync(folder)).toBe(kind === 'frame')
      if (kind === 'frame') await server.add(runId, 'f0.jpg', pictures[0])
    },
  )

  test('nothing is deleted while a job works on it', async () => {
    const { runId } = await run()
    const job = await server.context.work.fuse(runId, SETTINGS)
    const { id } = await server.context.db.selectFrom('frame').select('id').executeTakeFirstOrThrow()
    await expect(server.context.bin.put('run', runId)).rejects.toMatchObject({ code: 'run.busy' })
    await expect(server.context.bin.put('frame', id)).rejects.toMatchObject({ code: 'run.busy' })
    await server.context.jobs.outcome(job)
    await server.context.bin.put('run', runId)
  })

  test('a frame that is brought again comes out of the bin', async () => {
    const { runId, pictures } = await run()
    const frame = await server.context.db.selectFrom('frame').selectAll().orderBy('id').executeTakeFirstOrThrow()
    await server.context.bin.put('frame', frame.id)
    expect((await server.add(runId, 'f0.jpg', pictures[0])).id).toBe(frame.id)
    expect(await server.context.bin.list()).toEqual([])
  })
})

describe('room', () => {
  test('is told, and what can be made again is freed and made again', async () => {
    const { runId } = await run()
    const { render } = await fuse(runId)
    const { jobs, work, storage } = server.context
    await jobs.outcome(await work.deliver(render, 'png').then((job) => job!))
    const full = await storage.detail()
    expect(full.originals).toBeGreaterThan(500)
    expect(full.renders).toBeGreaterThan(5000)
    expect(full.derived).toBeGreaterThan(100)
    await storage.free()
    expect((await storage.detail()).derived).toBe(0)
    expect(await work.deliver(render, 'png')).toBeDefined()
    await jobs.idle()
  })

  test('a backup is a job whose file can be fetched, and restored from another folder’s screen', async () => {
    await run()
    const { jobs, storage } = server.context
    const { name, bytes } = await jobs.outcome<'backup'>(await jobs.add('backup', {}, {}))
    const file = await storage.backupFile(name)
    expect((await stat(file)).size).toBe(bytes)
    await expect(storage.backupFile('../nitidus.db')).rejects.toMatchObject({ code: 'archive.missing' })
    const other = await TestServer.start()
    const { createReadStream } = await import('node:fs')
    const restored = await other.context.jobs.outcome<'restore'>(await other.context.storage.restore(createReadStream(file)))
    expect(restored).toMatchObject({ shoots: 1, runs: 1, frames: 3 })
    expect(await readdir(path.join(other.folder, 'incoming'))).toEqual([])
    await other.stop()
  })
})
