import { spawnSync } from 'node:child_process'
import { createReadStream } from 'node:fs'
import { copyFile, mkdir, readdir, readFile, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { readSamples } from '@/codec'
import { renderDetail, renderOf } from '.'
import { refusedWith, TestServer } from './testServer'

const [SETS, CAPTURES] = [3, 4]
const SETTINGS = { style: 'auto', bits: 16, crop: 'none', register: true, localWarp: 'never' } as const

let server: TestServer
beforeAll(async () => {
  server = await TestServer.start()
  await shot({ captures: CAPTURES, positions_mm: [0, 5, 10] }, 'card')
})
afterAll(() => server.stop())

/** Frames by the simulated camera, on a card of that name. */
async function shot(series: object, card: string): Promise<void> {
  const scene = path.join(server.folder, 'scene.json')
  const camera = { width_px: 360, height_px: 240, mover: 'rail', fNumber: 5.6, magnification: 0.5 }
  await writeFile(scene, JSON.stringify({ scene: 'nib', files: 'dng', camera, ...series }))
  const out = path.join(server.folder, 'import', card)
  const made = spawnSync(process.execPath, ['dist/nitidus.mjs', 'simulate', scene, '--out', out], { encoding: 'utf8' })
  if (made.status !== 0) throw new Error(made.stderr)
}

const captureName = (set: number, capture: number) => `frame_00${set}_0${capture}.dng`
const contents = (name: string) => readFile(path.join(server.folder, 'import', 'card', name))

/** A run of the card's captures, split: a frame for each set. */
async function splitRun(): Promise<number> {
  const { jobs, work } = server.context
  const runId = await server.newRun()
  expect(await server.addFolder(runId, 'card')).toMatchObject({ taken: SETS * CAPTURES, refused: [] })
  const { series } = await jobs.outcome<'split'>(await work.split(runId))
  expect(series).toHaveLength(1)
  return runId
}

const detail = async (runId: number) => {
  const { shoots } = server.context
  const { shoot_id } = await shoots.runRow(runId)
  return (await shoots.detail(shoot_id)).runs.find(({ id }) => id === runId)!
}
const filesOf = (runId: number) => readdir(server.context.store.folders.frames(runId))

test('splitting a card makes one frame of each set of captures, and their files stay what they are', async () => {
  const runId = await splitRun()
  const { frames } = await detail(runId)
  expect(frames.map(({ name, captures, here }) => [name, captures, here])).toEqual([1, 2, 3].map((set) => [captureName(set, 1), CAPTURES, true]))
  expect(await filesOf(runId)).toHaveLength(SETS * CAPTURES)
  const { db, store } = server.context
  const second = await db
    .selectFrom('capture')
    .selectAll()
    .where('name', '=', captureName(2, 3))
    .where('frame_id', '=', frames[1].id)
    .executeTakeFirstOrThrow()
  expect(second).toMatchObject({ x_px: 1, y_px: 1 })
  expect(await readFile(store.folders.frame(runId, second.file))).toEqual(await contents(captureName(2, 3)))
  // Split again they are what they are.
  await server.context.jobs.outcome<'split'>(await server.context.work.split(runId))
  expect((await detail(runId)).frames.map(({ captures }) => captures)).toEqual(Array(SETS).fill(CAPTURES))
})

test('a single frame before the first set becomes a run of its own, and the sets stay whole', async () => {
  await shot({ captures: CAPTURES, positions_mm: [5], seed: 9 }, 'tried')
  const mixed = path.join(server.folder, 'import', 'mixed')
  await mkdir(mixed)
  await copyFile(path.join(server.folder, 'import', 'tried', captureName(1, 1)), path.join(mixed, 'frame_000.dng'))
  for (const name of await readdir(path.join(server.folder, 'import', 'card')))
    if (name.endsWith('.dng')) await writeFile(path.join(mixed, name), await contents(name))
  const { jobs, work, shoots } = server.context
  const runId = await server.newRun()
  await server.addFolder(runId, 'mixed')
  const { series } = await jobs.outcome<'split'>(await work.split(runId))
  expect(series.map(({ files, reasonCode }) => [files.length, reasonCode])).toEqual([
    [1, undefined],
    [SETS * CAPTURES, 'split.captures'],
  ])
  const { shoot_id } = await shoots.runRow(runId)
  const runs = (await shoots.detail(shoot_id)).runs.map(({ frames }) => frames.map(({ captures }) => captures))
  expect(runs).toEqual([Array(SETS).fill(CAPTURES), [1]])
  // Without an application to put them into runs, the command asks for that.
  const fused = spawnSync(process.execPath, ['dist/nitidus.mjs', 'fuse', mixed, '--out', path.join(server.folder, 'x.tif')], { encoding: 'utf8' })
  expect([fused.status === 0, fused.stderr]).toEqual([false, expect.stringContaining('before the first set of captures')])
})

test('fused, frames are merged from their captures, and the report tells it', async () => {
  const runId = await splitRun()
  const { jobs, work, store, shoots, db } = server.context
  await jobs.outcome<'fuse'>(await work.fuse(runId, SETTINGS))
  const { renders, frames } = await detail(runId)
  const told = renderDetail(await renderOf(db, renders[0].id)).report.frames.map(({ role, captures }) => ({ role, captures }))
  expect(told).toEqual(Array(SETS).fill({ role: 'use', captures: { taken: CAPTURES, used: CAPTURES, moved_percent: 0 } }))
  // The fused frame is the merged one: another picture than its first capture gives alone.
  const merged = await readSamples(await store.pictureOf((await framesOf(runId))[2]))
  const alone = await server.newRun()
  await server.add(alone, captureName(3, 1), await contents(captureName(3, 1)))
  const first = await readSamples(await store.pictureOf((await framesOf(alone))[0]))
  expect([merged.width, merged.height]).toEqual([first.width, first.height])
  const differing = [...merged.samples].filter((value, i) => Math.abs(value - first.samples[i]) > 256)
  expect(differing.length / merged.samples.length).toBeGreaterThan(0.1)
  await expect(shoots.takeCapturesApart(runId)).rejects.toEqual(refusedWith('captures.rendersExist'))
  expect(frames).toHaveLength(SETS)
})

const framesOf = (runId: number) => server.context.db.selectFrom('frame').selectAll().where('run_id', '=', runId).orderBy('id').execute()

test('taken apart, every capture is a frame again', async () => {
  const runId = await splitRun()
  await server.context.shoots.takeCapturesApart(runId)
  const { frames } = await detail(runId)
  expect(frames).toHaveLength(SETS * CAPTURES)
  expect(frames.every(({ captures, here, width }) => captures === 1 && here && width === 360)).toBe(true)
})

test('a capture that is gone is told by its name, found by the check, and put back by bringing its file', async () => {
  const runId = await splitRun()
  const { store, jobs, db } = server.context
  const [frame] = await framesOf(runId)
  const lost = await db
    .selectFrom('capture')
    .selectAll()
    .where('frame_id', '=', frame.id)
    .where('name', '=', captureName(1, 2))
    .executeTakeFirstOrThrow()
  await rm(store.folders.frame(runId, lost.file))
  await expect(store.pictureOf(frame)).rejects.toMatchObject({ code: 'frame.fileGone', message: expect.stringContaining(captureName(1, 2)) })
  expect((await jobs.outcome<'check'>(await jobs.add('check', {}, {}))).missing).toEqual([frame.id])
  await server.add(runId, captureName(1, 2), await contents(captureName(1, 2)))
  expect(await readFile(store.folders.frame(runId, lost.file))).toEqual(await contents(captureName(1, 2)))
  expect(await framesOf(runId)).toHaveLength(SETS)
  // It is in the run: once more it would be there twice.
  await expect(server.add(runId, captureName(1, 2), await contents(captureName(1, 2)))).rejects.toEqual(refusedWith('frame.nameTaken'))
})

test('a frame is deleted for good with its captures', async () => {
  const runId = await splitRun()
  const { bin } = server.context
  const [frame] = await framesOf(runId)
  await bin.put('frame', frame.id)
  await bin.empty(true)
  expect((await filesOf(runId)).sort()).toEqual([2, 3].flatMap((set) => [1, 2, 3, 4].map((capture) => captureName(set, capture))))
})

test('a backup brings captures along', async () => {
  const runId = await splitRun()
  const { jobs, storage, shoots } = server.context
  const { shoot_id } = await shoots.runRow(runId)
  const { name } = await jobs.outcome<'backup'>(await jobs.add('backup', {}, { shoots: [shoot_id] }))
  const other = await TestServer.start()
  try {
    await other.context.jobs.outcome<'restore'>(await other.context.storage.restore(createReadStream(await storage.backupFile(name))))
    const [shoot] = await other.context.db.selectFrom('shoot').selectAll().execute()
    const [run] = (await other.context.shoots.detail(shoot.id)).runs
    expect(run.frames.map(({ captures, here }) => [captures, here])).toEqual(Array(SETS).fill([CAPTURES, true]))
    for (const { name, file } of await other.context.db.selectFrom('capture').selectAll().execute())
      expect(await readFile(other.context.store.folders.frame(run.id, file))).toEqual(await contents(name))
  } finally {
    await other.stop()
  }
})
