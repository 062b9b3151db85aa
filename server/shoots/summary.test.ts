import { randomUUID } from 'node:crypto'
import { picture, TestServer } from '../testServer'

let server: TestServer
beforeEach(async () => {
  server = await TestServer.start()
})
afterEach(() => server.stop())

const listed = async () => (await server.context.shoots.list()).shoots[0]
const survey = (roles: Record<string, string>) =>
  JSON.stringify({
    order: 'near-to-far',
    directionBy: 'names',
    frames: Object.entries(roles).map(([file, role]) => ({ file, role, reason: '', exposure_ev: 0 })),
    coverage: { nearEnd: 'reached', farEnd: 'reached', gaps: [] },
    exposure: { spread_ev: 0 },
    messages: [],
  })

test('how many frames are used follows the survey, the hand, the bin, and what comes later', async () => {
  const { db, shoots, bin } = server.context
  const runId = await server.newRun()
  const [a, b, c] = [
    await server.add(runId, 'a.jpg', await picture()),
    await server.add(runId, 'b.jpg', await picture()),
    await server.add(runId, 'c.jpg', await picture()),
  ]
  const used = async () => {
    const { frameCount, usedCount } = await listed()
    const [run] = (await shoots.detail((await listed()).id)).runs
    expect(run.frames).toHaveLength(frameCount)
    return [usedCount, frameCount]
  }
  expect(await used()).toEqual([3, 3])
  await db
    .updateTable('run')
    .set({ survey_json: survey({ 'a.jpg': 'use', 'b.jpg': 'idle', 'c.jpg': 'use' }) })
    .where('id', '=', runId)
    .execute()
  expect(await used()).toEqual([2, 3])
  await shoots.setAside(b.id, false)
  await shoots.setAside(c.id, true)
  expect(await used()).toEqual([2, 3])
  await shoots.setAside(c.id, null)
  expect(await used()).toEqual([3, 3])
  await bin.put('frame', a.id)
  expect(await used()).toEqual([2, 2])
  // What comes after a survey belongs to it until the next.
  await server.add(runId, 'd.jpg', await picture())
  expect(await used()).toEqual([3, 3])
})

test('the frame in the middle is shown, also where frames of other shoots came between or some are gone', async () => {
  const { bin } = server.context
  const [runId, other] = [await server.newRun(), await server.newRun()]
  const frames = []
  for (const name of ['a.jpg', 'b.jpg', 'c.jpg', 'd.jpg', 'e.jpg']) {
    frames.push(await server.add(runId, name, await picture()))
    await server.add(other, name, await picture())
  }
  const cover = async () => (await server.context.shoots.list({ order: 'created' })).shoots.map((shoot) => shoot.cover?.id)
  expect((await cover())[1]).toBe(frames[2].id)
  await bin.put('frame', frames[2].id)
  expect((await cover())[1]).toBe(frames[3].id)
  await bin.put('run', runId)
  expect((await cover())[1]).toBeUndefined()
})

test('a survey that is damaged does not take the list with it', async () => {
  const runId = await server.newRun()
  await server.add(runId, 'a.jpg', await picture())
  await server.context.db.updateTable('run').set({ survey_json: '{"frames": [' }).where('id', '=', runId).execute()
  expect(await listed()).toMatchObject({ frameCount: 1, state: 'shot' })
})

test('a field log changes its shoot when it arrives, however far ahead the clock of the phone is', async () => {
  const { shoots, field, db } = server.context
  const [first, second] = [await server.newShoot(), await server.newShoot()]
  await db.updateTable('shoot').set({ changed_at: '2026-01-01T00:00:00.000Z', created_at: '2026-01-01T00:00:00.000Z' }).execute()
  const before = new Date().toISOString()
  await field.add(first, [{ id: randomUUID(), at: '2041-05-01T12:00:00.000Z', kind: 'taken' }])
  const changed = new Map((await shoots.list()).shoots.map(({ id, changed_at }) => [id, changed_at]))
  expect(changed.get(first)! >= before && changed.get(first)! <= new Date().toISOString()).toBe(true)
  expect(changed.get(second)).toBe('2026-01-01T00:00:00.000Z')
})

test('the list comes in parts: together they hold every shoot that was found once, in order', async () => {
  const { shoots, db } = server.context
  for (let k = 1; k <= 60; k++) await server.newShoot()
  const [{ id: odd }, ...others] = await db.selectFrom('shoot').select('id').orderBy('id').execute()
  await shoots.rename(odd, { title: 'Odd one', subject: '' })
  for (const [k, { id }] of others.entries()) await shoots.rename(id, { title: `Tray ${k}`, subject: '' })
  const asked = { words: 'tray', order: 'title' } as const
  const parts = [await shoots.list(asked), await shoots.list({ ...asked, from: 24 }), await shoots.list({ ...asked, from: 48 })]
  expect(parts.map((part) => [part.shoots.length, part.found, part.all])).toEqual([
    [24, 59, 60],
    [24, 59, 60],
    [11, 59, 60],
  ])
  expect(parts.flatMap((part) => part.shoots.map(({ title }) => title))).toEqual(others.map((_, k) => `Tray ${k}`))
  expect((await shoots.list({ from: 60 })).shoots).toEqual([])
})
