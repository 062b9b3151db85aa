import { mkdtemp, readdir, rm, stat, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { depthColour } from '@/core/ramp'
import { colouredSourceMap, frameArea, frameAreaSamples, sourceAt, thumbnail, zoomPyramid } from '.'
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

/** A picture of 60 × 40 px of one channel's worth of grey that is another at every place, in the whole range of its bits. */
async function ladder(bits: 8 | 16, file: string): Promise<Uint8Array | Uint16Array> {
  const samples = bits === 16 ? new Uint16Array(60 * 40 * 3) : new Uint8Array(60 * 40 * 3)
  for (let i = 0; i < samples.length; i++) samples[i] = bits === 16 ? (i * 9) % 65536 : i % 256
  const raw = sharp(samples, { raw: { width: 60, height: 40, channels: 3 } })
  await (bits === 16 ? raw.toColourspace('rgb16').tiff({ compression: 'lzw' }) : raw.png()).toFile(file)
  return samples
}

describe('a part of a picture', () => {
  test.each([8, 16] as const)('has the file’s own samples, of %s bits', async (bits) => {
    const whole = await ladder(bits, at('p.tif'))
    const found = await frameAreaSamples(at('p.tif'), { x: 7, y: 5, width: 20, height: 11 }, folder)
    expect(found.bits).toBe(bits)
    const { buffer, byteOffset, byteLength } = found.samples
    const samples = bits === 16 ? new Uint16Array(buffer.slice(byteOffset, byteOffset + byteLength)) : found.samples
    const rows = Array.from({ length: 11 }, (_, y) => [...whole.subarray(3 * ((5 + y) * 60 + 7), 3 * ((5 + y) * 60 + 27))])
    expect([...samples]).toEqual(rows.flat())
  })

  test.each([
    ['over the upper left corner', { x: -4, y: -3, width: 10, height: 8 }],
    ['over the lower right corner', { x: 55, y: 36, width: 12, height: 9 }],
    ['wholly outside', { x: 90, y: -20, width: 5, height: 4 }],
  ])('%s repeats the nearest edge', async (_, area) => {
    const whole = await ladder(8, at('p.png'))
    const { data, info } = await sharp(await frameArea(at('p.png'), area, folder))
      .raw()
      .toBuffer({ resolveWithObject: true })
    expect([info.width, info.height]).toEqual([area.width, area.height])
    const within = (place: number, most: number) => Math.min(most, Math.max(0, place))
    for (let y = 0; y < area.height; y++)
      for (let x = 0; x < area.width; x++) {
        const from = 3 * (within(area.y + y, 39) * 60 + within(area.x + x, 59))
        const to = info.channels * (y * area.width + x)
        expect([...data.subarray(to, to + 3)]).toEqual([...whole.subarray(from, from + 3)])
      }
  })
})

test('a thumbnail stands upright, whichever way the camera was held', async () => {
  await sharp({ create: { width: 900, height: 600, channels: 3, background: '#000' } })
    .composite([{ input: { create: { width: 900, height: 60, channels: 3, background: '#fff' } }, left: 0, top: 0 }])
    .jpeg()
    .withMetadata({ orientation: 6 })
    .toFile(at('turned.jpg'))
  const { data, info } = await sharp(await thumbnail(at('turned.jpg'), at('t.jpg'), 200))
    .raw()
    .toBuffer({ resolveWithObject: true })
  expect([info.width, info.height]).toEqual([200, 300])
  // Its upper edge has become the right one.
  const light = (x: number) => data[info.channels * (150 * info.width + x)]
  expect([light(20) < 10, light(197) > 245]).toEqual([true, true])
})

test.each([
  [8, 200],
  [16, 40_000],
] as const)('the frame that a place came from is read from a map of %s bits', async (bits, index) => {
  const map = bits === 16 ? Uint16Array.from([3, 4, index, 6]) : Uint8Array.from([3, 4, index, 6])
  const raw = sharp(map, { raw: { width: 2, height: 2, channels: 1 } })
  await (bits === 16 ? raw.toColourspace('grey16') : raw.toColourspace('b-w')).png().toFile(at('source.png'))
  expect(await sourceAt(at('source.png'), 0, 1)).toBe(index)
  expect(await sourceAt(at('source.png'), 1, 0)).toBe(4)
  for (const [x, y] of [
    [-1, 0],
    [2, 0],
    [0, 2],
  ])
    expect(await sourceAt(at('source.png'), x, y)).toBeUndefined()
})
