import { mkdir, rename, rm, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { PictureStore } from './pictures'
import { picture, refusedWith, TestServer } from './testServer'

const COUNT = 24
let server: TestServer
beforeEach(async () => {
  server = await TestServer.start()
  await mkdir(card(), { recursive: true })
  for (let k = 0; k < COUNT; k++) await writeFile(card(`f${k}.jpg`), await picture(300, 200, `#${(0x111111 + 0x50505 * k).toString(16)}`))
})
afterEach(() => server.stop())

const card = (...names: string[]) => path.join(server.folder, 'import', 'card', ...names)
const importing = () => server.context.importing
const until = async (is: () => boolean) => {
  for (let waited = 0; !is(); waited++) {
    if (waited > 600) throw new Error('nothing came of it in a minute')
    await new Promise((done) => setTimeout(done, 100))
  }
}
const ended = (shootId: number) => until(() => importing().of(shootId)?.ended != null)

test('a folder comes in whole, what cannot be taken is told, and its frames are looked through for series', async () => {
  await writeFile(card('letter.jpg'), 'Dear museum,')
  await writeFile(card('f0-again.jpg'), await picture(300, 200, '#111111'))
  const shootId = await server.newShoot()
  const { run } = await importing().begin(shootId, 'card')
  await ended(shootId)
  const { taken, total, refusedCount, refused, ended: end, pace } = importing().of(shootId)!
  expect({ taken, total, refusedCount, code: end!.code, pace }).toEqual({
    taken: COUNT,
    total: COUNT + 2,
    refusedCount: 2,
    code: 'import.done',
    pace: null,
  })
  expect(refused.map(({ name, code }) => [name, code]).sort()).toEqual([
    [expect.stringMatching(/^f0/), 'frame.twice'],
    ['letter.jpg', 'picture.unreadable'],
  ])
  expect(await server.framesOf(run)).toHaveLength(COUNT)
  await server.context.jobs.idle()
  const jobs = await server.context.db.selectFrom('job').select(['kind', 'state', 'run_id']).execute()
  expect(jobs).toEqual([{ kind: 'split', state: 'done', run_id: run }])
})

test('of two that begin in the same instant the second is refused, and one run comes of them', async () => {
  const shootId = await server.newShoot()
  const [first, second] = await Promise.allSettled([importing().begin(shootId, 'card'), importing().begin(shootId, 'card')])
  expect([first.status, second]).toEqual(['fulfilled', { status: 'rejected', reason: refusedWith('import.busy') }])
  await ended(shootId)
  expect((await server.context.shoots.detail(shootId)).runs).toHaveLength(1)
})

test('while it rests nothing more comes, and then all of it', async () => {
  const shootId = await server.newShoot()
  const { run } = await importing().begin(shootId, 'card')
  await importing().pause(shootId, true)
  await new Promise((done) => setTimeout(done, 700))
  const rested = importing().of(shootId)!
  expect(rested).toMatchObject({ paused: true, ended: null })
  expect(rested.taken).toBeLessThanOrEqual(3)
  await new Promise((done) => setTimeout(done, 500))
  expect(importing().of(shootId)!.taken).toBe(rested.taken)
  await expect(importing().begin(shootId, 'card')).rejects.toEqual(refusedWith('import.busy'))
  await importing().pause(shootId, false)
  await ended(shootId)
  expect(await server.framesOf(run)).toHaveLength(COUNT)
})

test('after a restart it goes on where it stopped, each file once; one that rested still rests', async () => {
  const shootId = await server.newShoot()
  const { run } = await importing().begin(shootId, 'card')
  await until(() => (importing().of(shootId)?.taken ?? 0) > 3)
  await server.open()
  await until(() => importing().of(shootId) !== null)
  await importing().pause(shootId, true)
  await server.open()
  expect(importing().of(shootId)).toMatchObject({ paused: true, run, folder: 'card' })
  expect((await server.framesOf(run)).length).toBeLessThan(COUNT)
  await importing().pause(shootId, false)
  await ended(shootId)
  const names = await server.framesOf(run)
  expect([names.length, new Set(names).size]).toEqual([COUNT, COUNT])
  expect(await server.context.db.selectFrom('import').selectAll().execute()).toEqual([])
})

test('a card that is pulled out in the middle is told of; put back, it goes on in the same run', async () => {
  const shootId = await server.newShoot()
  const { run } = await importing().begin(shootId, 'card')
  await until(() => (importing().of(shootId)?.taken ?? 0) > 2)
  await rename(card(), card('..', 'away'))
  await ended(shootId)
  expect(importing().of(shootId)!.ended!.code).toBe('import.gone')
  const came = (await server.framesOf(run)).length
  expect(came).toBeGreaterThan(2)
  // Out while the application starts, it is reported as well.
  await server.context.db.insertInto('import').values({ run_id: run, folder: 'card', begun_at: '' }).execute()
  await server.open()
  expect(importing().of(shootId)).toMatchObject({ run, ended: { code: 'import.gone' } })
  await rename(card('..', 'away'), card())
  expect((await importing().begin(shootId, 'card')).run).toBe(run)
  await ended(shootId)
  expect(await server.framesOf(run)).toHaveLength(COUNT)
})

test('stopped, it keeps what came, and tells nothing any more; the next folder gets a run of its own', async () => {
  const shootId = await server.newShoot()
  const { run } = await importing().begin(shootId, 'card')
  await until(() => (importing().of(shootId)?.taken ?? 0) > 2)
  await importing().end(shootId)
  expect(importing().of(shootId)).toBeNull()
  const came = (await server.framesOf(run)).length
  expect(came).toBeGreaterThan(2)
  expect(await server.context.db.selectFrom('import').selectAll().execute()).toEqual([])
  expect((await importing().begin(shootId, 'card')).run).not.toBe(run)
  await ended(shootId)
  expect(await server.framesOf(run)).toHaveLength(came)
  await rm(card(), { recursive: true })
  await expect(importing().begin(shootId, 'card')).rejects.toEqual(refusedWith('folder.outside'))
})

test('a run that is deleted meanwhile ends its import with one sentence', async () => {
  const shootId = await server.newShoot()
  const { run } = await importing().begin(shootId, 'card')
  await until(() => (importing().of(shootId)?.taken ?? 0) > 2)
  await server.context.bin.put('run', run)
  await ended(shootId)
  expect(importing().of(shootId)).toMatchObject({ ended: { code: 'run.gone' }, refusedCount: 0 })
})

test('a folder that cannot be read at the start does not stop the data folder from opening; its import has a sentence', async () => {
  const shootId = await server.newShoot()
  await importing().begin(shootId, 'card')
  await importing().pause(shootId, true)
  const complained = jest.spyOn(console, 'error').mockImplementation(() => undefined)
  const unreadable = jest.spyOn(PictureStore.prototype, 'filesIn').mockRejectedValue(Object.assign(new Error('denied'), { code: 'EACCES' }))
  try {
    await server.open()
  } finally {
    unreadable.mockRestore()
    complained.mockRestore()
  }
  expect(importing().of(shootId)?.ended).toMatchObject({ code: 'import.gone' })
  expect((await server.context.shoots.list()).shoots).toHaveLength(1)
})
