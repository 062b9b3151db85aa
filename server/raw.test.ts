import { spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { readdir, readFile, rm, stat, utimes, writeFile } from 'node:fs/promises'
import path from 'node:path'
import sharp from 'sharp'
import { readSamples } from '@/codec'
import { renderDetail, renderOf } from '.'
import { makeRoom } from './pictures'
import { picture, refusedWith, TestServer } from './testServer'

let server: TestServer
beforeAll(async () => {
  server = await TestServer.start()
  const scene = path.join(server.folder, 'scene.json')
  const camera = { width_px: 720, height_px: 480, mover: 'ring', fNumber: 5.6 }
  await writeFile(scene, JSON.stringify({ scene: 'bristles', files: 'dng', camera, positions_mm: [0, 2, 4, 6] }))
  const { status, stderr } = spawnSync(process.execPath, ['dist/nitidus.mjs', 'simulate', scene, '--out', server.folder + '/import/card'], {
    encoding: 'utf8',
  })
  if (status !== 0) throw new Error(stderr)
  await writeFile(path.join(server.folder, 'import', 'card', 'FRAME_002.JPG'), await picture(720, 480))
})
afterAll(() => server.stop())

const card = (name: string) => readFile(path.join(server.folder, 'import', 'card', name))

/** A run of the card's raw files. */
async function rawRun(): Promise<number> {
  const runId = await server.newRun()
  await server.addFolder(runId, 'card')
  return runId
}
const frames = (runId: number) => server.context.db.selectFrom('frame').selectAll().where('run_id', '=', runId).orderBy('id').execute()
const developed = async () => readdir(server.context.store.folders.derived('developed')).catch(() => [])

test('raw files come in as they are, their JPEG twins stay behind, and what they were taken with is known', async () => {
  const runId = await server.newRun()
  const { taken, refused } = await server.addFolder(runId, 'card')
  expect([taken, refused.map(({ name, code }) => [name, code])]).toEqual([4, [['FRAME_002.JPG', 'raw.pair']]])
  const [first] = await frames(runId)
  expect(first).toMatchObject({ name: 'frame_001.dng', width: 720, height: 480, bits: 16 })
  expect(JSON.parse(first.exif_json!)).toMatchObject({ body: 'Body A', fNumber: 5.6, focalLength_mm: 100 })
  expect(await readFile(server.context.store.folders.frame(runId, first.file))).toEqual(await card('frame_001.dng'))
})

test('thumbnail and survey take the camera’s own picture: nothing is developed for them', async () => {
  const runId = await rawRun()
  const { store, work, jobs } = server.context
  const [first] = await frames(runId)
  expect(await sharp(await store.shownOf(first)).metadata()).toMatchObject({ format: 'jpeg', width: 720 })
  const survey = await jobs.outcome<'survey'>(await work.survey(runId))
  expect(survey.frames.map(({ file }) => file).sort()).toEqual((await frames(runId)).map(({ name }) => name))
  expect(await developed()).toEqual([])
  // What was made can be made again.
  await rm(store.folders.derived('previews'), { recursive: true })
  expect(await sharp(await store.shownOf(first)).metadata()).toMatchObject({ format: 'jpeg', width: 720 })
})

test('fusing develops them, each once, and the render has the wide profile and what the reference was taken with', async () => {
  const runId = await rawRun()
  const { jobs, work, shoots } = server.context
  const settings = { style: 'auto', bits: 16, crop: 'none', register: true, localWarp: 'never' } as const
  const stages = new Set<string>()
  jobs.events.on('any', ({ progress_json }) => progress_json && stages.add(JSON.parse(progress_json).stage))
  await jobs.outcome<'fuse'>(await work.fuse(runId, settings))
  expect(stages).toContain('develop')
  const once = await developed()
  expect(once).toHaveLength(4)
  const before = await Promise.all(once.map(async (name) => (await stat(server.context.store.folders.derived('developed', name))).ino))
  const { render } = await jobs.outcome<'fuse'>(await work.fuse(runId, settings))
  const after = await Promise.all(once.map(async (name) => (await stat(server.context.store.folders.derived('developed', name))).ino))
  expect(after).toEqual(before)
  const { report } = renderDetail(await renderOf(server.context.db, render))
  expect(report.colour).toEqual({ profile: 'Wide', converted: false })
  expect(report.frames.every(({ role }) => role === 'use')).toBe(true)
  // Other pictures hang on how they were developed.
  const [, second] = await frames(runId)
  await expect(shoots.developLike(runId, second.id)).rejects.toEqual(refusedWith('raw.rendersExist'))
})

test('a run takes the white balance of the frame that is chosen, before anything is fused of it', async () => {
  const runId = await rawRun()
  const { shoots, store, db } = server.context
  const kept = async () =>
    JSON.parse((await db.selectFrom('run').select('development_json').where('id', '=', runId).executeTakeFirstOrThrow()).development_json!)
  const [first, second] = await frames(runId)
  expect(await kept()).toMatchObject({ like: 'frame_001.dng' })
  // As if the first frame had been shot by lamp light.
  await db
    .updateTable('run')
    .set({ development_json: JSON.stringify({ ...(await kept()), multipliers: [1, 1, 3] }) })
    .where('id', '=', runId)
    .execute()
  const meanBlue = async () => {
    const { samples } = await readSamples(await store.pictureOf(first))
    return (samples as Uint16Array).reduce((sum, value, i) => sum + (i % 3 === 2 ? value : 0), 0) / (samples.length / 3)
  }
  const lamp = await meanBlue()
  await shoots.developLike(runId, second.id)
  expect(await kept()).toMatchObject({ like: 'frame_002.dng', multipliers: [2, 1, expect.closeTo(1.515, 2)] })
  expect(await meanBlue()).toBeLessThan(0.9 * lamp)
})

test('raw frames and others do not mix, and a damaged one is refused by its name; the run stays as it was', async () => {
  const runId = await rawRun()
  await expect(server.add(runId, 'other.jpg', await picture(720, 480))).rejects.toEqual(refusedWith('raw.mixed'))
  const bytes = await card('frame_003.dng')
  await expect(server.add(runId, 'cut.dng', bytes.subarray(0, bytes.length / 2))).rejects.toEqual(refusedWith('raw.unreadable'))
  await expect(server.add(runId, 'words.nef', Buffer.from('no picture'))).rejects.toEqual(refusedWith('raw.unreadable'))
  expect(await server.framesOf(runId)).toEqual(['frame_001.dng', 'frame_002.dng', 'frame_003.dng', 'frame_004.dng'])
})

test('what is developed goes when there is no room for it, the longest unused first, and with its frame', async () => {
  const runId = await rawRun()
  const { store } = server.context
  const rows = await frames(runId)
  const made = await Promise.all(rows.map((frame) => store.pictureOf(frame)))
  for (const [k, file] of made.entries()) await utimes(file, 1000 + k, 1000 + k)
  const { size } = await stat(made[0])
  const others = (await developed()).length - made.length
  await makeRoom(store.folders, { developed: ((others + 2) * size + 1000) / 1e9 })
  expect(made.map((file) => existsSync(file))).toEqual([false, false, true, true])
  await store.raw.forget(rows[2].uid)
  expect(made.map((file) => existsSync(file))).toEqual([false, false, false, true])
})

test('the simulated camera writes raw files on demand, which enter the run with where they were focused', async () => {
  const { shoots, work, jobs } = server.context
  const shootId = await server.newShoot()
  const { id } = await work.shoot(shootId, [], 'dng')
  // Two frames are enough to see.
  for (let waited = 0; waited < 600 && (await shoots.detail(shootId)).runs[0].frames.length < 2; waited++)
    await new Promise((done) => setTimeout(done, 200))
  await jobs.cancel(id)
  const [{ frames, development }] = (await shoots.detail(shootId)).runs
  expect(frames[0]).toMatchObject({ name: 'frame_001.dng', bits: 16, colour: 'Wide', position_mm: expect.any(Number) })
  expect(development).toMatchObject({ like: 'frame_001.dng' })
})
