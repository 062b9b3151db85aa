import { execFileSync, spawnSync } from 'node:child_process'
import { randomBytes, randomUUID } from 'node:crypto'
import { existsSync, mkdtempSync, readdirSync, rmdirSync, rmSync, statfsSync, writeFileSync } from 'node:fs'
import { rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { sql } from 'kysely'
import sharp from 'sharp'
import { connect, explained } from '@/database'
import { AS_IT_IS } from '@/core/finish'
import { FINISHED_FORMATS, TAKE_NAMES, TAKES, type JobDetail } from '@/schemas'
import { jobDetail } from '.'
import { QUICK } from './testRun'
import { demoShoot, TestServer } from './testServer'

/** A disk of its own in memory. Only who may mount one can run these. */
const SIZE_MB = 24
const disk = mkdtempSync(path.join(tmpdir(), 'disk-'))
const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${SIZE_MB}m`, 'tmpfs', disk]).status === 0
afterAll(() => {
  if (mounted) execFileSync('umount', [disk])
  rmdirSync(disk)
})

/** Fills the disk but for so many kB; answers what makes room again. */
function fillTo(left_kB: number): () => void {
  const { bavail, bsize } = statfsSync(disk)
  const filler = path.join(disk, 'filler')
  const bytes = bavail * bsize - left_kB * 1024
  if (bytes > 0) writeFileSync(filler, Buffer.alloc(bytes))
  return () => rmSync(filler, { force: true })
}

/** A frame that does not compress, so that what is made of it takes room. */
const noise = () =>
  sharp(randomBytes(480 * 320 * 3), { raw: { width: 480, height: 320, channels: 3 } })
    .png()
    .toBuffer()

const namesIn = (folder: string) => (existsSync(folder) ? readdirSync(folder).sort() : [])

const onDisk = mounted ? describe : describe.skip

onDisk('a disk that is full', () => {
  let server: TestServer
  beforeEach(async () => {
    server = await TestServer.start(disk)
  })
  afterEach(async () => {
    await rm(path.join(disk, 'filler'), { force: true })
    await server.stop()
  })

  const job = async (id: number): Promise<JobDetail> =>
    jobDetail(await server.context.db.selectFrom('job').selectAll().where('id', '=', id).executeTakeFirstOrThrow())

  /** What was asked for, or the code it was refused by. */
  const tried = <T>(asked: Promise<T>) =>
    asked.then(
      (result) => ({ result, code: undefined }),
      (error: unknown) => ({ result: undefined, code: (explained(error) as { code?: string }).code ?? 'unknown' }),
    )

  /** Everything there belongs to something that is recorded, and all of that is there. */
  async function isWhole(): Promise<void> {
    const { db, store, jobs } = server.context
    expect((await sql<{ integrity_check: string }>`pragma integrity_check`.execute(db)).rows).toEqual([{ integrity_check: 'ok' }])
    expect((await sql`pragma foreign_key_check`.execute(db)).rows).toEqual([])
    const renders = await db.selectFrom('render').select('folder').execute()
    expect(namesIn(store.folders.renders())).toEqual(renders.map(({ folder }) => folder).sort())
    expect(namesIn(store.folders.jobs())).toEqual([])
    const frames = await db.selectFrom('frame').selectAll().execute()
    expect(await jobs.outcome<'check'>(await jobs.add('check', {}, {}))).toEqual({ checked: frames.length, missing: [], changed: [] })
  }

  // A render of these frames takes some 2.5 MB, a frame 440 kB, a row of the database a few pages of its log.
  test.each([0, 150, 2400, 5000])('with %i kB left nothing hangs or is half there, and all goes on once there is room', async (left_kB) => {
    const { shoots, jobs, work, field } = server.context
    const runId = await server.newRun()
    for (const k of [0, 1, 2]) await server.add(runId, `f${k}.png`, await noise())
    const fourth = await noise()
    // Whatever a survey makes of noise.
    const useAll = async () => {
      for (const { id } of await server.context.db.selectFrom('frame').select('id').execute()) await shoots.setAside(id, false)
    }
    await useAll()
    const makeRoom = fillTo(left_kB)
    const outcomes = [
      await tried(server.add(runId, 'f3.png', fourth)),
      await tried(work.survey(runId).then((asked) => jobs.outcome<'survey'>(asked))),
      await tried(work.fuse(runId, QUICK).then((asked) => jobs.outcome<'fuse'>(asked))),
      await tried(shoots.replan((await shoots.list()).shoots[0].id, { ...demoShoot, title: 'Planned on a full disk' })),
      await tried(field.add((await shoots.list()).shoots[0].id, [{ id: randomUUID(), at: new Date().toISOString(), kind: 'taken' }])),
    ]
    await jobs.idle()
    // What did not go through says that the disk is full, and nothing else.
    expect(outcomes.map(({ code }) => code).filter((code) => code && code !== 'disk.full')).toEqual([])
    if (left_kB === 0) expect(outcomes[0].code).toBe('disk.full')
    if (left_kB === 5000) expect(outcomes.every(({ code }) => code === undefined)).toBe(true)
    const states = await server.context.db.selectFrom('job').select(['id', 'state']).execute()
    expect(states.filter(({ state }) => state === 'running' || state === 'queued')).toEqual([])
    for (const { id, state } of states.filter(({ state }) => state === 'failed'))
      expect([id, state, (await job(id)).error_code]).toEqual([id, 'failed', 'disk.full'])
    makeRoom()

    // No restart: what was refused is taken now, and what was taken is not taken twice.
    await isWhole()
    const names = await server.framesOf(runId)
    expect(names).toEqual(outcomes[0].code ? ['f0.png', 'f1.png', 'f2.png'] : ['f0.png', 'f1.png', 'f2.png', 'f3.png'])
    if (outcomes[0].code) await server.add(runId, 'f3.png', fourth)
    await useAll()
    const { render } = await jobs.outcome<'fuse'>(await work.fuse(runId, QUICK))
    const { name } = await jobs.outcome<'finish'>(await work.finish(render, { recipe: AS_IT_IS, format: 'jpg' }))
    expect(name).toMatch(/\.jpg$/)
    const detail = await shoots.detail((await shoots.list()).shoots[0].id)
    expect(detail.runs[0].renders).toHaveLength(outcomes[2].code ? 1 : 2)
    expect(detail.title).toBe(outcomes[3].code ? demoShoot.title : 'Planned on a full disk')
    expect(detail.field).toHaveLength(outcomes[4].code ? 0 : 1)
    await isWhole()
  })

  test('a delivery and a backup that do not fit leave nothing behind, and the picture is as it was', async () => {
    const { jobs, work, store, db } = server.context
    const runId = await server.newRun()
    for (const k of [0, 1, 2]) await server.add(runId, `f${k}.png`, await noise())
    const { render } = await jobs.outcome<'fuse'>(await work.fuse(runId, QUICK))
    const { folder } = await db.selectFrom('render').select('folder').where('id', '=', render).executeTakeFirstOrThrow()
    const before = namesIn(store.folders.render(folder))
    const refused: Record<string, string | undefined> = {}
    // Room enough to record what is asked for, too little for what it makes.
    const refuse = async <T>(what: string, asked: () => Promise<T>) => {
      const makeRoom = fillTo(50)
      refused[what] = (await tried(asked())).code
      makeRoom()
    }
    for (const format of FINISHED_FORMATS)
      await refuse(format, async () => jobs.outcome<'finish'>(await work.finish(render, { recipe: AS_IT_IS, format })))
    for (const what of TAKE_NAMES)
      for (const ending of TAKES[what]) await refuse(`${what} ${ending}`, async () => jobs.outcome<'take'>(await work.take(render, { what, ending })))
    await refuse('backup', async () => jobs.outcome<'backup'>(await jobs.add('backup', {}, {})))
    expect(refused).toEqual(Object.fromEntries(Object.keys(refused).map((what) => [what, 'disk.full'])))
    expect(namesIn(store.folders.render(folder))).toEqual(before)
    await isWhole()
    await jobs.outcome<'finish'>(await work.finish(render, { recipe: AS_IT_IS, format: 'tif' }))
    await jobs.outcome<'backup'>(await jobs.add('backup', {}, {}))
  })
})

onDisk('a data folder on a disk that is full', () => {
  const folder = () => path.join(disk, 'data')
  afterEach(() => rm(folder(), { recursive: true, force: true }))

  test.each([0, 20, 60, 100, 160, 240, 400])('is opened once there is room, after an upgrade that had %i kB', async (left_kB) => {
    execFileSync('mkdir', [folder()])
    execFileSync('tar', ['xzf', path.resolve('database/testData/data-005.tar.gz'), '-C', folder()])
    const makeRoom = fillTo(left_kB)
    const first = await connect(folder()).then(
      (db) => db.destroy(),
      (error: { code?: string }) => error.code,
    )
    if (first !== undefined) expect(first).toBe('disk.full')
    makeRoom()
    const db = await connect(folder())
    expect(await db.selectFrom('frame').select('uid').execute()).toHaveLength(10)
    expect((await sql`pragma foreign_key_check`.execute(db)).rows).toEqual([])
    await db.destroy()
  })
})
