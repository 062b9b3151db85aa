import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { isRefusal } from '@/core/words'
import { ReadAhead } from './readAhead'

let folder: string
beforeAll(() => (folder = mkdtempSync(path.join(tmpdir(), 'ahead-'))))
afterAll(() => rmSync(folder, { recursive: true }))

/** Frames of one grey each. */
async function frames(count: number) {
  return Promise.all(
    Array.from({ length: count }, async (_, k) => {
      const name = `f${k}.png`
      const file = path.join(folder, name)
      const grey = { r: 10 * k, g: 10 * k, b: 10 * k }
      writeFileSync(file, await sharp({ create: { width: 300, height: 200, channels: 3, background: grey } }).png().toBuffer()) // prettier-ignore
      return { file, name }
    }),
  )
}

async function takeNext(reading: ReadAhead): Promise<number[]> {
  let seen: number[] = []
  await reading.arrived()
  reading.handOver((samples) => (seen = [samples.length, samples[0], samples.at(-1)!]))
  await reading.goOn()
  return seen
}

test('frames come whole and in their order, also one that comes twice', async () => {
  const [a, b, c] = await frames(3)
  const reading = new ReadAhead([b, a, c, b])
  for (const value of [10, 0, 20, 10]) expect(await takeNext(reading)).toEqual([180_000, value, value])
})

test('a damaged frame is told of when its turn comes, and those before it are there', async () => {
  const files = await frames(3)
  writeFileSync(files[2].file, readFileSync(files[2].file).subarray(0, 200))
  const reading = new ReadAhead(files)
  expect(await takeNext(reading)).toEqual([180_000, 0, 0])
  expect(await takeNext(reading)).toEqual([180_000, 10, 10])
  const error = await reading.arrived().then(
    () => undefined,
    (reason: unknown) => reason,
  )
  expect(isRefusal(error) && error.code).toBe('picture.damaged')
})

test('one that is gone when it is begun is told of then', async () => {
  const files = await frames(2)
  rmSync(files[1].file)
  const reading = new ReadAhead(files)
  await reading.arrived()
  reading.handOver(() => undefined)
  await expect(reading.goOn()).rejects.toMatchObject({ code: expect.stringMatching(/^(picture|disk)\./) })
})
