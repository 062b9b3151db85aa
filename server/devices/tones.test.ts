import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { tonesOf } from './tones'

let folder: string
beforeAll(async () => {
  folder = await mkdtemp(path.join(tmpdir(), 'tones-'))
})
afterAll(() => rm(folder, { recursive: true }))

/** A picture whose pixels follow from their place. */
async function picture(name: string, width: number, height: number, pixel: (x: number, y: number) => [number, number, number]): Promise<string> {
  const data = Buffer.from(Array.from({ length: width * height }, (_, i) => pixel(i % width, Math.floor(i / width))).flat())
  const file = path.join(folder, name)
  await sharp(data, { raw: { width, height, channels: 3 } })
    .png()
    .toFile(file)
  return file
}

test('every pixel is in one step of the histogram, from dark to bright', async () => {
  const { histogram, white_percent, black_percent } = await tonesOf(await picture('ramp.png', 256, 4, (x) => [x, x, x]))
  expect(histogram).toHaveLength(64)
  expect(histogram.reduce((a, b) => a + b)).toBe(256 * 4)
  histogram.forEach((count) => expect(count).toBe(16))
  // Values 254 and 255 are clipped, 0 and 1 black.
  expect(white_percent).toBeCloseTo((100 * 2) / 256, 6)
  expect(black_percent).toBeCloseTo((100 * 2) / 256, 6)
})

test('one clipped channel counts as clipped, black only what has no light in any', async () => {
  const half = await picture('half.png', 10, 10, (x) => (x < 5 ? [255, 40, 40] : [0, 0, 9]))
  expect(await tonesOf(half)).toMatchObject({ white_percent: 50, black_percent: 0 })
})

test('a large picture is judged from a smaller copy, by the same shares', async () => {
  const large = await picture('large.png', 1500, 900, (x) => (x < 300 ? [0, 0, 0] : [120, 120, 120]))
  const { histogram, black_percent } = await tonesOf(large)
  expect(histogram.reduce((a, b) => a + b)).toBe(600 * 360)
  expect(black_percent).toBeCloseTo(20, 0)
})

test('what is no picture is refused', async () => {
  await expect(tonesOf(path.join(folder, 'nothing.png'))).rejects.toThrow()
})
