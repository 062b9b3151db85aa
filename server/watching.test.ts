import { randomUUID } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, rm, writeFile } from 'node:fs/promises'
import { once } from 'node:events'
import path from 'node:path'
import { picture, refusedWith, TestServer } from './testServer'

let server: TestServer
beforeEach(async () => {
  server = await TestServer.start()
  await mkdir(at('in'), { recursive: true })
})
afterEach(() => server.stop())

const at = (...names: string[]) => path.join(server.folder, 'import', ...names)
const watching = () => server.context.watching
async function until(ready: () => boolean | Promise<boolean>): Promise<void> {
  for (let waited_ms = 0; !(await ready()); waited_ms += 100) {
    if (waited_ms > 60_000) throw new Error('waited for too long')
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
}

test('what comes into the folder enters the run, complete and in its order; what lay there before stays there', async () => {
  await writeFile(at('in', 'old.jpg'), await picture(60, 40, '#111'))
  const shootId = await server.newShoot()
  const { run } = await watching().begin(shootId, 'in')
  const growing = createWriteStream(at('in', 'f1.jpg'))
  const whole = await picture(60, 40, '#222')
  growing.write(whole.subarray(0, 200))
  await writeFile(at('in', 'notes.txt'), 'no picture')
  // Longer than a complete file is looked at for: it goes on growing all the while.
  for (let k = 200; k < whole.length; k += 20) {
    growing.write(whole.subarray(k, k + 20))
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  growing.end()
  await once(growing, 'close')
  await writeFile(at('in', 'f2.jpg'), await picture(60, 40, '#333'))
  await until(() => watching().of(shootId)!.taken === 2)
  // After the others: what comes at the same moment comes in any order.
  await writeFile(at('in', 'stray.jpg'), await picture(40, 60, '#444'))
  await until(() => watching().of(shootId)!.refused.length === 1)
  expect((await server.framesOf(run)).sort()).toEqual(['f1.jpg', 'f2.jpg'])
  expect(watching().of(shootId)!.refused).toMatchObject([{ name: 'stray.jpg', code: 'frame.size' }])

  await watching().end(shootId)
  await writeFile(at('in', 'late.jpg'), await picture(60, 40, '#555'))
  await new Promise((resolve) => setTimeout(resolve, 2000))
  expect(await server.framesOf(run)).toHaveLength(2)
  expect(watching().of(shootId)).toBeNull()
})

test('each frame that comes ticks the run card, unless a hand was faster', async () => {
  const { field } = server.context
  const shootId = await server.newShoot()
  await field.add(shootId, [{ id: randomUUID(), at: '2999-01-01T00:00:00.000Z', kind: 'extra', what: 'test' }])
  await watching().begin(shootId, 'in')
  const kinds = async () => (await field.of(shootId)).map(({ kind }) => kind)
  await writeFile(at('in', 'f1.jpg'), await picture(60, 40, '#111'))
  await until(async () => (await kinds()).length === 2)
  expect(await kinds()).toEqual(['extra', 'taken'])
  const log = await field.of(shootId)
  await field.add(shootId, [{ id: randomUUID(), at: new Date(Date.parse(log[1].at) + 5).toISOString(), kind: 'taken' }])
  await writeFile(at('in', 'f2.jpg'), await picture(60, 40, '#222'))
  await until(() => watching().of(shootId)!.taken === 2)
  await watching().end(shootId)
  expect(await kinds()).toEqual(['extra', 'taken', 'taken'])
})

test('a folder that goes is told of, and the run keeps what came', async () => {
  const shootId = await server.newShoot()
  const { run } = await watching().begin(shootId, 'in')
  await writeFile(at('in', 'f1.jpg'), await picture())
  await until(() => watching().of(shootId)!.taken === 1)
  await rm(at('in'), { recursive: true })
  await until(() => watching().of(shootId)!.ended !== null)
  expect(watching().of(shootId)).toMatchObject({ taken: 1, ended: { code: 'watch.gone' } })
  expect(await server.framesOf(run)).toEqual(['f1.jpg'])
})

test('only folders inside the import folder are watched', async () => {
  const shootId = await server.newShoot()
  await expect(watching().begin(shootId, '..')).rejects.toEqual(refusedWith('folder.outside'))
  await expect(watching().begin(shootId, 'nowhere')).rejects.toEqual(refusedWith('folder.outside'))
  expect((await server.context.shoots.detail(shootId)).runs).toEqual([])
})
