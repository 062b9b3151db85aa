import { renderPage } from '.'
import { QUICK } from './testRun'
import { picture, TestServer } from './testServer'

let server: TestServer
beforeEach(async () => {
  server = await TestServer.start()
})
afterEach(() => server.stop())

const REPORT = {
  style: 'auto',
  settings: { bits: 16, register: true },
  reference: 'b.jpg',
  frames: ['a.jpg', 'b.jpg', 'c.jpg'].map((file) => ({ file, scale: 1, rotation_deg: 0, dx_px: 0, dy_px: 0, gain_ev: 0, share_percent: 33 })),
  crop: { x: 0, y: 0, width: 60, height: 40 },
  timings_s: {},
  peakMemory_MB: 0,
}

/** A shoot with so many renders, the first of them made in that year. */
async function rendersOf(count: number, year: number): Promise<{ shoot: number; renders: number[] }> {
  const { db, shoots } = server.context
  const run_id = await server.newRun()
  const renders: number[] = []
  for (let k = 0; k < count; k++) {
    const made = { uid: `${year}-${k}`, folder: `${year}-${k}`, run_id, bytes: 1, report_json: JSON.stringify(REPORT) }
    const { id } = await db
      .insertInto('render')
      .values({ ...made, created_at: `${year + k}-01-01T00:00:00.000Z` })
      .returning('id')
      .executeTakeFirstOrThrow()
    renders.push(id)
  }
  return { shoot: (await shoots.runRow(run_id)).shoot_id, renders }
}

test('all renders come in parts, the newest first, those of one shoot before the others, and none of what lies in the bin', async () => {
  const { db, bin } = server.context
  const old = await rendersOf(60, 2000)
  const newer = await rendersOf(2, 2100)
  const ids = async (asked: { from: number; first?: number }) => (await renderPage(db, asked)).renders.map(({ id }) => id)
  expect((await ids({ from: 0 })).slice(0, 3)).toEqual([newer.renders[1], newer.renders[0], old.renders[59]])
  const first = old.shoot
  const all = [...(await ids({ from: 0, first })), ...(await ids({ from: 50, first }))]
  expect(all).toEqual([...old.renders.toReversed(), ...newer.renders.toReversed()])
  expect((await renderPage(db, { from: 50 })).all).toBe(62)
  await bin.put('render', newer.renders[1])
  await bin.put('shoot', old.shoot)
  expect(await renderPage(db, { from: 0 })).toMatchObject({
    all: 1,
    renders: [{ id: newer.renders[0], report: { frameCount: 3, referenceNumber: 2, moved: 'none' } }],
  })
})

test('a shoot tells of its renders in short, and a render in whole', async () => {
  const runId = await server.newRun()
  for (const [name, colour] of [['a.jpg', '#335'], ['b.jpg', '#533']] as const) await server.add(runId, name, await picture(120, 80, colour)) // prettier-ignore
  const { work, jobs, shoots, db } = server.context
  await jobs.outcome<'fuse'>(await work.fuse(runId, { ...QUICK, register: false }))
  const { renders } = (await shoots.detail((await shoots.runRow(runId)).shoot_id)).runs[0]
  expect(renders).toHaveLength(1)
  expect(Object.keys(renders[0].report).sort()).toEqual(['crop', 'frameCount', 'moved', 'reference', 'referenceNumber', 'settings', 'style'])
  const { renders: listed } = await renderPage(db, { from: 0 })
  expect(listed[0].report).toEqual(renders[0].report)
})
