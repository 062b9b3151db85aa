import { spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { mkdir, mkdtemp, readdir, readFile, rm, symlink, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { Readable } from 'node:stream'
import sharp from 'sharp'
import type { JobDetail } from '@/schemas'
import { DEMO_SHOOTS } from '@/demo/scenario'
import { deliver, jobDetail, openContext, readEnvironment, simulationOf, type Context } from '.'
import { readExif, safeName } from './pictures'

let folder: string
let context: Context
const opened: Context[] = []

async function open(change: Record<string, string> = {}): Promise<Context> {
  const made = await openContext(readEnvironment({ NITIDUS_DATA: folder, ...change } as unknown as NodeJS.ProcessEnv))
  opened.push(made)
  return made
}

beforeEach(async () => {
  folder = await mkdtemp(path.join(tmpdir(), 'server-'))
  context = await open()
})
afterEach(async () => {
  await Promise.all(opened.splice(0).map(async ({ jobs, db }) => jobs.idle().then(() => db.destroy())))
  await rm(folder, { recursive: true })
})

const demo = DEMO_SHOOTS[2]
const newShoot = () => context.shoots.create(demo.title, demo.subject, demo.scene, demo.plan)
const newRun = async () => context.shoots.addRun(await newShoot(), 'imported')

/** A JPEG of one colour. */
const picture = (width = 60, height = 40, background = '#7a6') => sharp({ create: { width, height, channels: 3, background } }).jpeg().toBuffer()

const add = (runId: number, name: string, contents: Buffer, into = context) => into.store.add(runId, name, Readable.from([contents]))

const framesOf = async (runId: number) => (await context.db.selectFrom('frame').select('name').where('run_id', '=', runId).orderBy('id').execute()).map(({ name }) => name)

/** No file waits half received. */
const nothingHalf = async () => expect(await readdir(path.join(folder, 'incoming')).catch(() => [])).toEqual([])

/** A series of small simulated frames in a folder. */
async function smallSeries(where: string, count = 3): Promise<void> {
  const scene = path.join(folder, 'scene.json')
  await writeFile(scene, JSON.stringify({ scene: 'bristles', camera: { width_px: 160, height_px: 120, mover: 'ring' }, positions_mm: Array.from({ length: count }, (_, k) => k * 2) }))
  const { status, stderr } = spawnSync(process.execPath, ['dist/nitidus.mjs', 'simulate', scene, '--out', where], { encoding: 'utf8' })
  if (status !== 0) throw new Error(stderr)
}

describe('frames are taken in', () => {
  test('untouched, with checksum, size and EXIF', async () => {
    const runId = await newRun()
    const contents = await sharp(await picture()).withExif({ IFD0: { Model: 'Body A' }, IFD2: { FNumber: '56/10', ISOSpeedRatings: '200' } }).toBuffer()
    const frame = await add(runId, 'a 1.jpg', contents)
    expect(frame).toMatchObject({ name: 'a 1.jpg', width: 60, height: 40, bits: 8, bytes: contents.length })
    expect(frame.sha256).toMatch(/^[0-9a-f]{64}$/)
    expect(JSON.parse(frame.exif_json!)).toMatchObject({ body: 'Body A', fNumber: 5.6, iso: 200 })
    expect((await readFile(context.store.folders.frame(runId, 'a 1.jpg'))).equals(contents)).toBe(true)
    await nothingHalf()
  })

  test.each([
    ['a text file', 'a.jpg', Buffer.from('hello'), 'a.jpg is not a picture'],
    ['an empty file', 'a.jpg', Buffer.alloc(0), 'a.jpg is empty'],
    ['a path', '../a.jpg', Buffer.from('x'), 'no folders'],
    ['dots', 'a..jpg', Buffer.from('x'), 'no folders'],
    ['another kind', 'a.gif', Buffer.from('x'), 'not a JPEG'],
  ])('%s is refused and leaves nothing', async (_, name, contents, sentence) => {
    const runId = await newRun()
    await expect(add(runId, name, contents)).rejects.toThrow(sentence)
    expect(await framesOf(runId)).toEqual([])
    await nothingHalf()
  })

  test('a truncated one, one of another size and one twice are refused; the others stay', async () => {
    const runId = await newRun()
    const whole = await picture(400, 300)
    await add(runId, 'a.jpg', whole)
    await expect(add(runId, 'b.jpg', whole.subarray(0, whole.length / 2))).rejects.toThrow('b.jpg is cut short')
    await expect(add(runId, 'b.jpg', await picture(200, 300))).rejects.toThrow('must have one size')
    await expect(add(runId, 'a.jpg', whole)).rejects.toThrow('in this run already')
    expect(await framesOf(runId)).toEqual(['a.jpg'])
    expect(await readdir(context.store.folders.frames(runId))).toEqual(['a.jpg'])
  })

  test('a stream that breaks off stores nothing', async () => {
    const runId = await newRun()
    const broken = new Readable({
      read() {
        this.push(Buffer.alloc(5000))
        this.destroy(new Error('connection lost'))
      },
    })
    await expect(context.store.add(runId, 'a.jpg', broken)).rejects.toThrow('connection lost')
    expect(await framesOf(runId)).toEqual([])
    await nothingHalf()
  })

  test('a full quota refuses with the figures and leaves nothing half', async () => {
    const runId = await newRun()
    const small = await open({ NITIDUS_QUOTA_MB: '0.002' })
    await add(runId, 'a.jpg', await picture(), small)
    await expect(add(runId, 'b.jpg', await picture(900, 700, '#123'), small)).rejects.toThrow('no room left')
    expect(await framesOf(runId)).toEqual(['a.jpg'])
    await nothingHalf()
  })

  test.each(['a.jpg', 'IMG 12 (copy).tif', 'Ölkanne_3.png'])('%s is a name that is kept', (name) => expect(safeName(name)).toBe(name))

  test.each(['', '.hidden.jpg', 'a/b.jpg', 'a\\b.jpg', 'a\0.jpg', '..', 'x'.repeat(300)])('%j is no name', (name) => expect(() => safeName(name)).toThrow('rename'))

  test('hostile EXIF is ignored, not fatal', () => {
    expect(readExif(Buffer.from('Exif\0\0garbage that is no TIFF structure'))).toBeNull()
    expect(readExif(undefined)).toBeNull()
  })
})

describe('a folder on this machine', () => {
  test('inside the root is imported in the order of the names', async () => {
    const runId = await newRun()
    await mkdir(path.join(folder, 'import', 'card'), { recursive: true })
    for (const name of ['f10.jpg', 'f2.jpg', 'notes.txt']) await writeFile(path.join(folder, 'import', 'card', name), await picture())
    const frames = await context.store.addFolder(runId, 'card')
    expect(frames.map(({ name }) => name)).toEqual(['f2.jpg', 'f10.jpg'])
  })

  test('outside it, by path, by dots or by a link, is refused', async () => {
    const runId = await newRun()
    await symlink('/etc', path.join(folder, 'import', 'way-out'))
    for (const name of ['/etc', '../..', 'way-out', 'nowhere']) await expect(context.store.addFolder(runId, name)).rejects.toThrow('not a folder inside')
    await writeFile(path.join(folder, 'import', 'file.txt'), '')
    await expect(context.store.addFolder(runId, 'file.txt')).rejects.toThrow('is a file')
    await expect(context.store.addFolder(runId, '.')).rejects.toThrow('holds no JPEG')
  })
})

describe('shoots', () => {
  test('are listed with state, plan and cover', async () => {
    const shootId = await newShoot()
    expect(await context.shoots.list()).toMatchObject([{ id: shootId, title: demo.title, state: 'planned', cover: null, frameCount: 0 }])
    const runId = await context.shoots.addRun(shootId, 'imported')
    const frame = await add(runId, 'a.jpg', await picture())
    expect(await context.shoots.list()).toMatchObject([{ state: 'shot', cover: { kind: 'frame', id: frame.id }, frameCount: 1 }])
  })

  test('a plan to infinity survives the database', async () => {
    const garden = DEMO_SHOOTS[0]
    const shootId = await context.shoots.create(garden.title, '', garden.scene, garden.plan)
    const [{ plan }] = await context.shoots.list()
    expect(plan!.frames.at(-1)!.far_mm).toBe(Infinity)
    expect((await context.shoots.detail(shootId)).planRequest.subject).toMatchObject({ far_mm: null })
  })

  test('a shoot that does not exist is said, not crashed on', async () => {
    await expect(context.shoots.detail(99)).rejects.toThrow('does not exist any more')
    await expect(context.shoots.replan(99, { title: 'x', subject: '', scene: 'fossil', plan: demo.plan })).rejects.toThrow('does not exist')
  })

  test('the simulated camera refuses a plan by distances', () => {
    expect(() => simulationOf('fossil', DEMO_SHOOTS[0].plan, {} as never, 1)).toThrow('bring your own frames')
  })
})

describe('jobs', () => {
  const settings = { style: 'lace', bits: 16, crop: 'common', register: true }

  async function seriesRun(count = 3): Promise<{ shootId: number; runId: number }> {
    await smallSeries(path.join(folder, 'import', 'series'), count)
    const shootId = await newShoot()
    const runId = await context.shoots.addRun(shootId, 'imported')
    await context.store.addFolder(runId, 'series')
    return { shootId, runId }
  }

  const ended = async (jobId: number): Promise<JobDetail> => {
    await context.jobs.idle()
    return jobDetail(await context.db.selectFrom('job').selectAll().where('id', '=', jobId).executeTakeFirstOrThrow())
  }

  test('a series is fused, kept and delivered under a name that says how', async () => {
    const { shootId, runId } = await seriesRun()
    const { id } = await context.jobs.add(shootId, runId, 'fuse', settings)
    expect(await ended(id)).toMatchObject({ state: 'done', error: null })
    const [{ renders }] = (await context.shoots.detail(shootId)).runs
    expect(renders).toHaveLength(1)
    expect(renders[0].report.frames).toHaveLength(3)
    const names = await Promise.all((['tif', 'png', 'jpg', 'json'] as const).map(async (format) => (await deliver(context.db, context.store.folders, renders[0].id, format)).name))
    expect(names).toEqual(['ribbed-coil-fossil-drawer-c-17_run1_lace_ref02_16bit.tif', 'ribbed-coil-fossil-drawer-c-17_run1_lace_ref02_16bit.png', 'ribbed-coil-fossil-drawer-c-17_run1_lace_ref02.jpg', 'ribbed-coil-fossil-drawer-c-17_run1_lace_ref02.json'])
    const { contents } = await deliver(context.db, context.store.folders, renders[0].id, 'tif')
    expect((await sharp(contents).metadata()).depth).toBe('ushort')
    expect(existsSync(context.store.folders.job(id))).toBe(false)
  }, 60_000)

  test('the simulated camera fills a run frame by frame', async () => {
    const shootId = await newShoot()
    const runId = await context.shoots.addRun(shootId, 'simulated')
    const seen: string[] = []
    context.jobs.events.on('any', ({ progress_json }) => progress_json && seen.push(JSON.parse(progress_json).file))
    const request = { scene: 'bristles', seed: 1, camera: { width_px: 160, height_px: 120, mover: 'rail' }, positions_mm: [1, 3] }
    const { id } = await context.jobs.add(shootId, runId, 'shoot', request)
    expect(await ended(id)).toMatchObject({ state: 'done' })
    const [{ frames }] = (await context.shoots.detail(shootId)).runs
    expect(frames.map(({ name, position_mm }) => [name, position_mm])).toEqual([
      ['frame_001.jpg', 1],
      ['frame_002.jpg', 3],
    ])
    expect(frames[0].exif).toMatchObject({ body: 'Body A', focalLength_mm: 100 })
    expect(seen).toContain('frame_002.jpg')
  }, 60_000)

  test('a bad series fails with the engine’s sentence and leaves no render', async () => {
    const shootId = await newShoot()
    const runId = await context.shoots.addRun(shootId, 'imported')
    await add(runId, 'a.jpg', await picture())
    const { id } = await context.jobs.add(shootId, runId, 'fuse', settings)
    const job = await ended(id)
    expect(job.state).toBe('failed')
    expect(job.error).toContain('one frame only')
    expect((await context.shoots.detail(shootId)).runs[0].renders).toEqual([])
  }, 30_000)

  test('an engine that is killed ends its job with a sentence; frames stay and it can run again', async () => {
    const { shootId, runId } = await seriesRun(6)
    context.jobs.events.on('any', ({ progress_json, state }) => {
      if (state === 'running' && progress_json?.includes('register')) spawnSync('pkill', ['-KILL', '-f', `fuse ${context.store.folders.frames(runId)}`])
    })
    const { id } = await context.jobs.add(shootId, runId, 'fuse', settings)
    const job = await ended(id)
    expect(job).toMatchObject({ state: 'failed' })
    expect(job.error).toContain('stopped from outside')
    context.jobs.events.removeAllListeners('any')
    expect(await framesOf(runId)).toHaveLength(6)
    expect(existsSync(context.store.folders.job(id))).toBe(false)
    const again = await context.jobs.add(shootId, runId, 'fuse', settings)
    expect(await ended(again.id)).toMatchObject({ state: 'done' })
  }, 60_000)

  test('cancelling ends a running job at once and a waiting one before it starts', async () => {
    const { shootId, runId } = await seriesRun(6)
    const first = await context.jobs.add(shootId, runId, 'fuse', settings)
    const second = await context.jobs.add(shootId, runId, 'fuse', settings)
    await new Promise<void>((resolve) => context.jobs.events.on('any', ({ progress_json }) => progress_json && resolve()))
    await context.jobs.cancel(second.id)
    const asked = Date.now()
    await context.jobs.cancel(first.id)
    expect(await ended(first.id)).toMatchObject({ state: 'cancelled' })
    expect(Date.now() - asked).toBeLessThan(5000)
    expect(await ended(second.id)).toMatchObject({ state: 'cancelled' })
    expect((await context.shoots.detail(shootId)).runs[0].renders).toEqual([])
  }, 60_000)

  test('a missing engine is a failed job, not a dead server', async () => {
    const lame = await open({ NITIDUS_ENGINE: path.join(folder, 'nothing.mjs') })
    const shootId = await newShoot()
    const runId = await context.shoots.addRun(shootId, 'imported')
    const { id } = await lame.jobs.add(shootId, runId, 'fuse', settings)
    await lame.jobs.idle()
    expect(await ended(id)).toMatchObject({ state: 'failed' })
  })

  test('what was running when the server stopped is marked, what waited is taken up', async () => {
    const shootId = await newShoot()
    const runId = await context.shoots.addRun(shootId, 'imported')
    const row = { shoot_id: shootId, run_id: runId, kind: 'fuse' as const, settings_json: JSON.stringify(settings), created_at: 'then' }
    await context.db.insertInto('job').values([{ ...row, state: 'running' }, { ...row, state: 'queued' }]).execute()
    const later = await open()
    await later.jobs.idle()
    const jobs = await later.db.selectFrom('job').select(['state', 'error']).orderBy('id').execute()
    expect(jobs[0]).toMatchObject({ state: 'interrupted' })
    expect(jobs[0].error).toContain('run it again')
    expect(jobs[1].state).toBe('failed')
    expect(jobs[1].error).toContain('not a folder')
  })
})

describe('the environment', () => {
  test('a bad quota is refused by name', () => {
    expect(() => readEnvironment({ NITIDUS_QUOTA_MB: 'plenty' } as unknown as NodeJS.ProcessEnv)).toThrow('NITIDUS_QUOTA_MB')
  })
})
