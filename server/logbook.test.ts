import type { LogEntry } from '@/core/logbook'
import { check, logQuerySchema, runNotesSchema } from '@/schemas'
import { picture, refusedWith, TestServer } from './testServer'

let server: TestServer
beforeEach(async () => {
  server = await TestServer.start()
})
afterEach(() => server.stop())

const page = (words = '', stars = 0, from = 0) => server.context.logbook.page({ words, stars, from })
const titles = (entries: LogEntry[]) => entries.map(({ title }) => title)

/** A run of the demo's shoot with so many frames, 0.5 mm apart but for the last. */
async function shot(count: number): Promise<number> {
  const runId = await server.newRun()
  for (let k = 0; k < count; k++) await server.add(runId, `f${k}.jpg`, await picture(60, 40, `#${k}${k}6`))
  for (const [k, { id }] of (await server.context.db.selectFrom('frame').select('id').where('run_id', '=', runId).execute()).entries())
    await server.context.db
      .updateTable('frame')
      .set({ position_mm: k === count - 1 ? 0.5 * k + 0.1 : 0.5 * k })
      .where('id', '=', id)
      .execute()
  return runId
}

test('a run enters by itself, with what was planned and what was taken; a run without frames does not', async () => {
  await server.newRun()
  expect(await page()).toEqual({ count: 0, entries: [] })
  const run = await shot(4)
  const { count, entries } = await page()
  expect(count).toBe(1)
  expect(entries[0]).toMatchObject({
    run,
    number: 1,
    frames: 4,
    used: 4,
    renders: 0,
    render: null,
    style: null,
    needed: null,
    complete: null,
    stars: 0,
    note: '',
    tags: [],
  })
  expect(entries[0].planned!.frames).toBeGreaterThan(4)
  expect(entries[0].stride!.mean_mm).toBeCloseTo(1.6 / 3, 6)
  expect(entries[0].stride!.spread_mm).toBeCloseTo(Math.sqrt(((0.5 - 1.6 / 3) ** 2 * 2 + (0.6 - 1.6 / 3) ** 2) / 2), 6)
  expect(entries[0].bytes).toBeGreaterThan(1000)
})

test('a frame that was left out does not make a stride seem longer', async () => {
  const run = await shot(6)
  const { id } = await server.context.db
    .selectFrom('frame')
    .select('id')
    .where('run_id', '=', run)
    .where('name', '=', 'f2.jpg')
    .executeTakeFirstOrThrow()
  const before = (await page()).entries[0].stride
  await server.context.db.updateTable('frame').set({ aside: 1 }).where('id', '=', id).execute()
  const [after] = (await page()).entries
  expect(after.used).toBe(5)
  expect(after.stride).toEqual(before)
})

test('what is noted is kept, found again by every word of it, and goes with the run into the bin', async () => {
  const [first, second] = [await shot(3), await shot(3)]
  const { logbook, bin } = server.context
  await logbook.note(first, { stars: 4, note: 'Lamp too low', tags: ['tray 4'] })
  expect((await page('lamp')).entries).toMatchObject([{ run: first, stars: 4, note: 'Lamp too low', tags: ['tray 4'] }])
  // What is not said stays.
  await logbook.note(first, { stars: 4 })
  expect((await page('TRAY low')).entries).toMatchObject([{ note: 'Lamp too low', tags: ['tray 4'] }])
  expect((await page('lamp high')).count).toBe(0)
  expect((await page("'; drop table run; --")).count).toBe(0)
  expect((await page('', 4)).entries.map(({ run }) => run)).toEqual([first])
  expect((await page('', 5)).count).toBe(0)
  expect((await page()).entries.map(({ run }) => run)).toEqual([second, first])
  await bin.put('run', first)
  expect((await page('lamp')).count).toBe(0)
  await expect(logbook.note(first, { stars: 1, note: '', tags: [] })).rejects.toEqual(refusedWith('run.gone'))
  await expect(logbook.note(999, { stars: 1, note: '', tags: [] })).rejects.toEqual(refusedWith('run.gone'))
})

test('entries come in pages, all of them once', async () => {
  const { db } = server.context
  const run = await shot(1)
  const [row] = await db.selectFrom('run').selectAll().where('id', '=', run).execute()
  const [frame] = await db.selectFrom('frame').selectAll().where('run_id', '=', run).execute()
  for (let k = 1; k <= 119; k++) {
    await db
      .insertInto('run')
      .values({ ...row, id: run + k, uid: `run-${k}`, number: k + 1 })
      .execute()
    await db
      .insertInto('frame')
      .values({ ...frame, id: frame.id + k, uid: `frame-${k}`, run_id: run + k })
      .execute()
  }
  const parts = [await page(), await page('', 0, 50), await page('', 0, 100)]
  expect(parts.map(({ count, entries }) => [count, entries.length])).toEqual([
    [120, 50],
    [120, 50],
    [120, 20],
  ])
  expect(new Set(parts.flatMap(({ entries }) => entries.map((entry) => entry.run))).size).toBe(120)
  expect(await server.context.logbook.all()).toHaveLength(120)
})

test('a record that cannot be read is not known, and the rest of the entry stays', async () => {
  const run = await shot(3)
  await server.context.db.updateTable('run').set({ plan_json: '{"camera":1}', sheet_json: '{', survey_json: '[]' }).where('id', '=', run).execute()
  const { entries } = await page('fossil')
  expect(titles(entries)).toHaveLength(1)
  expect(entries[0]).toMatchObject({ planned: null, body: null, complete: null, frames: 3, used: 3 })
})

test.each([
  [{ stars: 6, note: '', tags: [] }, 'value.number.max'],
  [{ stars: 2.5, note: '', tags: [] }, 'value.number.integer'],
  [{ stars: 1, note: 'x'.repeat(2001), tags: [] }, 'value.string.max'],
  [{ stars: 1, note: '', tags: ['a', 'a'] }, 'value.array.unique'],
  [{ stars: 1, colour: 'red' }, 'value.object.unknown'],
  [{}, 'value.object.min'],
])('%o is refused', (notes, code) => {
  expect(() => check(runNotesSchema, notes)).toThrow(expect.objectContaining({ code }))
})

test('what is asked for has defaults', () => {
  expect(check(logQuerySchema, {})).toEqual({ words: '', stars: 0, from: 0 })
})

test('the stride of a run without positions is told by how its frames grew, where a render has them registered', async () => {
  const run = await shot(6)
  const { db } = server.context
  await db.updateTable('frame').set({ position_mm: null }).where('run_id', '=', run).execute()
  const { plan_json } = await db.selectFrom('run').select('plan_json').where('id', '=', run).executeTakeFirstOrThrow()
  const request = JSON.parse(plan_json) as { optics: { focalLength_mm: number; magnification: number; pupilRatio: number } }
  const { focalLength_mm, magnification, pupilRatio } = request.optics
  const pupil_mm = focalLength_mm * (1 / magnification + 1 / pupilRatio)
  const still = { rotation_deg: 0, dx_px: 0, dy_px: 0, gain_ev: 0, share_percent: 100 / 6 }
  const frames = Array.from({ length: 6 }, (_, k) => ({ file: `f${k}.jpg`, role: 'use', scale: Math.exp((0.45 * k) / pupil_mm), ...still }))
  const report = { style: 'auto', settings: { bits: 16, register: true }, reference: 'f2.jpg', frames, crop: { x: 0, y: 0, width: 60, height: 40 } }
  await db
    .insertInto('render')
    .values({
      ...{ uid: 'scaled', run_id: run, job_id: null, folder: 'scaled', bytes: 1, created_at: new Date().toISOString() },
      report_json: JSON.stringify({ ...report, timings_s: {}, peakMemory_MB: 1 }),
    })
    .execute()
  const [entry] = (await page()).entries
  expect(entry.stride).toMatchObject({ by: 'perspective', steps: 5 })
  expect(entry.stride!.mean_mm).toBeCloseTo(0.45, 6)
  expect(entry).toMatchObject({ renders: 1, style: 'auto' })
})

test('words are found whatever their case and accents, as on the list of shoots', async () => {
  const run = await shot(2)
  await server.context.logbook.note(run, { note: 'Ästige Schlehe, près du mur' })
  const { shoot_id } = await server.context.db.selectFrom('run').select('shoot_id').where('id', '=', run).executeTakeFirstOrThrow()
  await server.context.db.updateTable('shoot').set({ title: 'Émail' }).where('id', '=', shoot_id).execute()
  for (const words of ['Ästige', 'ästige', 'ASTIGE', 'pres MUR', 'schleh', 'email']) expect([words, (await page(words)).count]).toEqual([words, 1])
  expect((await page('aestige')).count).toBe(0)
  expect((await server.context.shoots.list({ words: 'émail', state: '', order: 'changed', from: 0 })).found).toBe(1)
})
