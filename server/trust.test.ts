import { spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { mkdir, readdir, rm, symlink, truncate, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { sql } from 'kysely'
import { closeContext, context } from '.'
import { fuseNow, QUICK, smallRun } from './testRun'
import { enginePids, picture, TestServer } from './testServer'

let server: TestServer
beforeEach(async () => {
  server = await TestServer.start()
})
afterEach(() => server.stop())

const at = (...parts: string[]) => path.join(server.folder, ...parts)
const run = (count?: number) => smallRun(server, count)
const fuse = (runId: number) => fuseNow(server, runId)

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
    const job = await work.fuse(runId, QUICK)
    await jobs.idle()
    expect((await jobs.job(job.id)).state).toBe('running')
    await sql`drop trigger full`.execute(db)
    await jobs.outcome(job)
    complained.mockRestore()
    process.off('unhandledRejection', note)
    expect(unhandled).toEqual([])
  })

  test('a job that is said to run while nothing runs it can be cancelled; one that never existed is refused', async () => {
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

  test('a frame whose file is gone or emptied is reported, found by a check, and put back by the same file only', async () => {
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
    await jobs.outcome(await work.fuse(runId, QUICK))
  })

  test('a folder with bad files in it gives its good ones, and says what is wrong with the others', async () => {
    const card = at('import', 'card')
    await mkdir(path.join(card, 'c.jpg'), { recursive: true })
    for (const [name, colour] of Object.entries({ 'a.jpg': '#123', 'e.jpg': '#321', '../x.jpg': '#213' }))
      await writeFile(path.join(card, name), await picture(60, 40, colour))
    await writeFile(path.join(card, 'b.jpg'), 'no picture')
    await writeFile(path.join(card, 'f.jpg'), await picture(30, 30))
    spawnSync('mkfifo', [path.join(card, 'd.jpg')])
    await writeFile(at('secret.jpg'), await picture())
    await symlink(at('secret.jpg'), path.join(card, 'g.jpg'))
    await symlink(at('import', 'x.jpg'), path.join(card, 'h.jpg'))
    const runId = await server.newRun()
    const { taken, refused } = await server.addFolder(runId, 'card')
    expect(taken).toBe(3)
    expect(await server.framesOf(runId)).toEqual(['a.jpg', 'e.jpg', 'h.jpg'])
    expect(refused.map(({ name, code }) => [name, code])).toEqual([
      ['b.jpg', 'picture.unreadable'],
      ['c.jpg', 'picture.unreadable'],
      ['d.jpg', 'picture.unreadable'],
      ['f.jpg', 'frame.stray'],
      ['g.jpg', 'folder.outside'],
    ])
  })

  test('what kept the application from opening is reported, and once it is mended the next call opens it', async () => {
    const folder = at('other')
    await writeFile(folder, 'a file in the way')
    process.env.NITIDUS_DATA = folder
    await expect(context()).rejects.toMatchObject({ code: 'disk.denied' })
    await rm(folder)
    expect((await (await context()).shoots.list()).shoots.length).toBe(0)
    await closeContext()
    delete process.env.NITIDUS_DATA
  })

  test('closing ends what runs, and the next start says that it was interrupted', async () => {
    const { runId } = await run(3)
    // An engine that would go on for as long as it is let.
    await writeFile(at('endless.mjs'), 'setInterval(() => undefined, 1000)')
    const { work } = await server.open({ NITIDUS_ENGINE: at('endless.mjs') })
    const job = await work.fuse(runId, QUICK)
    while (enginePids(server).length === 0) await new Promise((resolve) => setTimeout(resolve, 10))
    const closing = performance.now()
    await server.context.close()
    expect(performance.now() - closing).toBeLessThan(4000)
    expect(enginePids(server)).toEqual([])
    await server.open()
    expect(await server.context.jobs.job(job.id)).toMatchObject({ state: 'interrupted', error_code: 'job.interrupted' })
  })
})
