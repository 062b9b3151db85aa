import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { createPlane, IDENTITY, type Plane } from '@/core/raster'
import { TwinKernels, Workspace } from '@/core/raster/kernels'
import type { FusedSeries } from './fuseSeries'
import { writeAll } from './outputs'
import type { Series } from '../series'
import { Stopwatch } from './stopwatch'

const [WIDTH, HEIGHT] = [40, 30]
let folder: string
let series: Series
beforeEach(async () => {
  folder = await mkdtemp(path.join(tmpdir(), 'outputs-'))
  const frame = path.join(folder, 'frame.jpg')
  await sharp({ create: { width: WIDTH, height: HEIGHT, channels: 3, background: '#777' } }).toFile(frame)
  series = seriesOf(3)
})
afterEach(() => rm(folder, { recursive: true }))

const at = (name: string) => path.join(folder, name)
const seriesOf = (count: number): Series => ({
  frames: Array.from({ length: count }, () => ({ name: 'frame.jpg', file: at('frame.jpg') })),
  facts: { width: WIDTH, height: HEIGHT, bits: 8, format: 'jpeg', colour: { model: 'rgb', converted: false } },
})

/** A map of half the size that rises from left to right, from `first` to `last`. */
function rising(first: number, last: number): Plane {
  const plane = createPlane(WIDTH / 2, HEIGHT / 2)
  plane.data.forEach((_, i) => (plane.data[i] = first + ((i % (WIDTH / 2)) / (WIDTH / 2 - 1)) * (last - first)))
  return plane
}

/** What fusing came to: a grey picture over which the sharpest of three frames goes from the first to the last. */
function fused(crop = { x: 0, y: 0, width: WIDTH, height: HEIGHT }, last = 2): FusedSeries {
  const sure = createPlane(WIDTH / 2, HEIGHT / 2)
  sure.data.fill(1)
  return {
    width: WIDTH,
    height: HEIGHT,
    samples: new Uint16Array(WIDTH * HEIGHT * 3).fill(30_000),
    source: () => ({ ...rising(0, last), data: rising(0, last).data.map(Math.round) }),
    depth: () => rising(0, 2),
    confidence: () => sure,
    detail: () => sure,
    room: new Workspace(new TwinKernels(), WIDTH),
    crop,
    reference: 1,
    registration: {
      ...{ motions: Array(3).fill(IDENTITY), gains: [1, 1, 1], correlations: [1, 1, 1], lost: [], stirred: [0, 0, 0] },
      ...{ scaleGaps: Array(3).fill(undefined), reference: 1 },
    },
    stopwatch: new Stopwatch(),
  }
}

const all = () => ({ out: at('r.tif'), sourceMap: at('s.png'), depth: at('d.png'), confidence: at('c.png'), relief: at('r.ply') })
const factsOf = async (name: string) => sharp(at(name)).metadata()

test('everything that was asked for is written, in the size of the crop and the depth of its kind', async () => {
  const crop = { x: 4, y: 3, width: 30, height: 21 }
  await writeAll(all(), fused(crop), series, { bits: 16 })
  for (const [name, depth] of [
    ['r.tif', 'ushort'],
    ['s.png', 'uchar'],
    ['d.png', 'ushort'],
    ['c.png', 'uchar'],
  ])
    expect(await factsOf(name)).toMatchObject({ width: crop.width, height: crop.height, depth })
  expect((await readFile(at('r.ply'), 'utf8')).split('\n')[0]).toBe('ply')
})

test('depth goes from the first frame to the last, or over the positions that are known', async () => {
  const ends = async () => {
    const data = await sharp(at('d.png')).toColourspace('grey16').raw({ depth: 'ushort' }).toBuffer()
    const row = new Uint16Array(data.buffer, data.byteOffset, WIDTH)
    return [row[0], row[WIDTH - 1], row[WIDTH / 2]]
  }
  await writeAll({ out: at('r.tif'), depth: at('d.png') }, fused(), series, { bits: 8 })
  const [first, last] = await ends()
  // The ends themselves are evened with what lies beside them.
  expect(first / 65535).toBeLessThan(0.12)
  expect(last / 65535).toBeGreaterThan(0.88)
  // The second frame lies a tenth of the way along: so does the middle of the picture.
  await writeAll({ out: at('r.tif'), depth: at('d.png') }, fused(), series, { bits: 8, positions: [5, 6, 15] })
  expect((await ends())[2] / 65535).toBeCloseTo(0.14, 1)
})

test('a source map of many frames has 16 bits', async () => {
  await writeAll({ out: at('r.jpg'), sourceMap: at('s.png') }, fused(undefined, 299), seriesOf(300), { bits: 16 })
  expect(await factsOf('s.png')).toMatchObject({ depth: 'ushort' })
  expect(await factsOf('r.jpg')).toMatchObject({ depth: 'uchar' })
})

test.each(['sourceMap', 'depth', 'out'])('where %s cannot be written it says so, and no part of any file stays', async (what) => {
  await expect(writeAll({ ...all(), [what]: path.join(folder, 'missing', 'x.png') }, fused(), series, { bits: 16 })).rejects.toThrow('ENOENT')
  expect((await readdir(folder)).filter((name) => name.endsWith('.part'))).toEqual([])
})
