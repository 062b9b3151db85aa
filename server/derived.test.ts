import { mkdtemp, readdir, rm, stat, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { depthColour } from '@/core/ramp'
import { colouredSourceMap, thumbnail, zoomPyramid } from '.'
import { picture } from './testServer'

let folder: string
beforeEach(async () => {
  folder = await mkdtemp(path.join(tmpdir(), 'derived-'))
})
afterEach(() => rm(folder, { recursive: true }))

const at = (...parts: string[]) => path.join(folder, ...parts)

test('a thumbnail is small, made once, and survives ten askers at once', async () => {
  await writeFile(at('p.jpg'), await picture(1500, 1000))
  await Promise.all(Array.from({ length: 10 }, () => thumbnail(at('p.jpg'), at('thumbs', 't.jpg'))))
  expect((await sharp(at('thumbs', 't.jpg')).metadata()).width).toBe(480)
  expect(await readdir(at('thumbs'))).toEqual(['t.jpg'])
  const { mtimeMs } = await stat(at('thumbs', 't.jpg'))
  await thumbnail(at('p.jpg'), at('thumbs', 't.jpg'))
  expect((await stat(at('thumbs', 't.jpg'))).mtimeMs).toBe(mtimeMs)
})

test('a zoom pyramid of a 16-bit picture has tiles on every level', async () => {
  await sharp({ create: { width: 700, height: 500, channels: 3, background: '#654' } })
    .toColourspace('rgb16')
    .tiff({ compression: 'deflate' })
    .toFile(at('p.tif'))
  const description = await zoomPyramid(at('p.tif'), at('zoom', 'render-1'))
  expect(path.basename(description)).toBe('picture.dzi')
  const levels = (await readdir(at('zoom', 'render-1', 'picture_files'))).map(Number).filter(Number.isFinite)
  expect(Math.max(...levels)).toBe(10)
  expect((await readdir(at('zoom', 'render-1', 'picture_files', '10'))).sort()).toEqual([
    '0_0.jpeg',
    '0_1.jpeg',
    '1_0.jpeg',
    '1_1.jpeg',
    '2_0.jpeg',
    '2_1.jpeg',
  ])
})

test('the source map takes the colours of the ribbon', async () => {
  await sharp(Uint8Array.from([0, 1, 2, 2]), { raw: { width: 4, height: 1, channels: 1 } })
    .png()
    .toFile(at('source.png'))
  await colouredSourceMap(at('source.png'), at('map.png'), 3)
  const { data, info } = await sharp(at('map.png')).raw().toBuffer({ resolveWithObject: true })
  const colours = Array.from({ length: 4 }, (_, k) => [...data.subarray(k * info.channels, k * info.channels + 3)])
  expect(colours).toEqual([depthColour(0), depthColour(0.5), depthColour(1), depthColour(1)])
})

test('what cannot be made leaves nothing', async () => {
  await writeFile(at('p.jpg'), 'no picture')
  await expect(thumbnail(at('p.jpg'), at('thumbs', 't.jpg'))).rejects.toThrow()
  expect(await readdir(at('thumbs'))).toEqual([])
})
