import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { progressTo } from '../progress'
import { openSeries } from './series'
import { Stopwatch } from './stopwatch'

let folder: string
beforeEach(async () => {
  folder = await mkdtemp(path.join(tmpdir(), 'series-'))
})
afterEach(() => rm(folder, { recursive: true }))

async function frame(name: string, width = 40, height = 30): Promise<void> {
  await sharp({ create: { width, height, channels: 3, background: '#777' } }).toFile(path.join(folder, name))
}

describe('a series', () => {
  test('is ordered as people count, and leaves aside what is no picture or hidden', async () => {
    for (const name of ['f10.jpg', 'f2.jpg', 'f1.png', '.f3.jpg']) await frame(name)
    await writeFile(path.join(folder, 'notes.txt'), 'dust on the glass')
    const { files, facts } = await openSeries(folder)
    expect(files.map((file) => path.basename(file))).toEqual(['f1.png', 'f2.jpg', 'f10.jpg'])
    expect(facts).toMatchObject({ width: 40, height: 30, bits: 8 })
  })

  test('names both frames whose sizes differ', async () => {
    await frame('a.jpg')
    await frame('b.jpg', 30, 40)
    await expect(openSeries(folder)).rejects.toThrow(/b\.jpg is 30 × 40 px and a\.jpg is 40 × 30 px/)
  })

  test('too large for the memory is refused before anything is decoded', async () => {
    for (const name of ['a.png', 'b.png']) await frame(name, 10_000, 9000)
    await expect(openSeries(folder)).rejects.toThrow('90 megapixels are too large to fuse; at most 85')
  }, 30_000)

  test('of none or one is refused', async () => {
    await expect(openSeries(folder)).rejects.toThrow('holds no JPEG')
    await frame('a.jpg')
    await expect(openSeries(folder)).rejects.toThrow('one frame only')
    await expect(openSeries(path.join(folder, 'nowhere'))).rejects.toThrow('not a folder that can be read')
  })
})

test('a stopwatch adds up each stage and knows the whole', async () => {
  const stopwatch = new Stopwatch()
  await stopwatch.time('decode', () => new Promise((resolve) => setTimeout(resolve, 30)))
  await stopwatch.time('decode', () => new Promise((resolve) => setTimeout(resolve, 30)))
  expect(stopwatch.timeNow('fuse', () => 7)).toBe(7)
  await expect(stopwatch.time('encode', () => Promise.reject(new Error('disk')))).rejects.toThrow('disk')
  const { decode, register, total } = stopwatch.timings_s()
  expect(decode).toBeGreaterThan(0.05)
  expect(register).toBe(0)
  expect(total).toBeGreaterThanOrEqual(decode)
})

test('progress is one JSON object a line, or nothing', () => {
  const lines: string[] = []
  const stream = { write: (line: string) => lines.push(line) } as unknown as NodeJS.WritableStream
  progressTo(stream)({ stage: 'fuse', frame: 1, of: 2, file: 'a.jpg' })
  progressTo()({ stage: 'fuse', frame: 2, of: 2 })
  expect(lines).toEqual(['{"stage":"fuse","frame":1,"of":2,"file":"a.jpg"}\n'])
})
