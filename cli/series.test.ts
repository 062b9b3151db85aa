import { spawnSync } from 'node:child_process'
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { framesIn, openSeries } from './series'

let folder: string
const silent = () => undefined
beforeEach(async () => {
  folder = await mkdtemp(path.join(tmpdir(), 'series-'))
})
afterEach(() => rm(folder, { recursive: true }))

async function frame(name: string, width = 40, height = 30): Promise<void> {
  await sharp({ create: { width, height, channels: 3, background: '#777' } }).toFile(path.join(folder, name))
}

const opened = async () => openSeries(await framesIn(folder, silent))

describe('a series', () => {
  test('is ordered as people count, and leaves aside what is no picture or hidden', async () => {
    for (const name of ['f10.jpg', 'f2.jpg', 'f1.png', '.f3.jpg']) await frame(name)
    await writeFile(path.join(folder, 'notes.txt'), 'dust on the glass')
    const { frames, facts } = await opened()
    expect(frames.map(({ name }) => name)).toEqual(['f1.png', 'f2.jpg', 'f10.jpg'])
    expect(facts).toMatchObject({ width: 40, height: 30, bits: 8 })
  })

  test('a folder or a pipe by the name of a picture is none', async () => {
    for (const name of ['a.jpg', 'b.jpg']) await frame(name)
    await mkdir(path.join(folder, 'c.jpg'))
    spawnSync('mkfifo', [path.join(folder, 'd.jpg')])
    expect((await framesIn(folder, silent)).map(({ name }) => name)).toEqual(['a.jpg', 'b.jpg'])
  })

  test('names both frames whose sizes differ', async () => {
    await frame('a.jpg')
    await frame('b.jpg', 30, 40)
    await expect(opened()).rejects.toMatchObject({
      code: 'frame.size',
      message: expect.stringMatching(/b\.jpg is 30 × 40 px and a\.jpg is 40 × 30 px/),
    })
  })

  test('too large for the memory is refused before anything is decoded', async () => {
    for (const name of ['a.png', 'b.png']) await frame(name, 10_000, 9000)
    await expect(opened()).rejects.toMatchObject({ code: 'series.tooLarge' })
  })

  test('of none or one is refused', async () => {
    await expect(opened()).rejects.toMatchObject({ code: 'folder.noPictures' })
    await frame('a.jpg')
    await expect(opened()).rejects.toMatchObject({ code: 'series.oneFrame' })
    await expect(framesIn(path.join(folder, 'nowhere'), silent)).rejects.toMatchObject({ code: 'folder.unreadable' })
  })
})
