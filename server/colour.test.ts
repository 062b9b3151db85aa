import { spawnSync } from 'node:child_process'
import { mkdir, readFile, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { converter, differenceCiede2000, type Rgb } from 'culori'
import sharp from 'sharp'
import { gammaCurve, greyProfile, matrixProfile, P3_PRIMARIES, SRGB_CURVE, SRGB_PROFILE, WIDE_PRIMARIES } from '@/core/formats'
import { AS_IT_IS } from '@/core/finish'
import { readFacts, readSamples } from '@/codec'
import type { FinishedFormat } from '@/schemas'
import { expectTaken } from '@/codec/testTaken'
import { finishedFile, renderOf, thumbnail, zoomPyramid } from '.'
import { TestServer } from './testServer'

/** Colours that every space here holds, none of them at its edge. */
const PATCHES = ['#b04040', '#3f8f4a', '#3d55a0', '#b0a040', '#8a4f90', '#408f95', '#c8b49a', '#5a4030', '#d8d8d8', '#8c8c8c', '#404040', '#c07f5f']
const [WIDTH, HEIGHT, SIDE] = [256, 192, 64]

let server: TestServer
const at = (name: string) => path.join(server.folder, name)

beforeAll(async () => {
  server = await TestServer.start()
  await writeFile(at('srgb.icc'), SRGB_PROFILE)
  await writeFile(at('p3.icc'), matrixProfile('Display P3 like', P3_PRIMARIES, SRGB_CURVE))
  await writeFile(at('wide.icc'), matrixProfile('Wide', WIDE_PRIMARIES, gammaCurve(2.2)))
  await writeFile(at('grey.icc'), greyProfile('Grey 1.8', gammaCurve(1.8)))
  // A print profile: the one that the library brings along.
  const cmyk = await sharp({ create: { width: 4, height: 4, channels: 3, background: '#abc' } })
    .toColourspace('cmyk')
    .withIccProfile('cmyk')
    .jpeg()
    .toBuffer()
  await writeFile(at('cmyk.icc'), (await sharp(cmyk).metadata()).icc!)
})
afterAll(() => server.stop())

const FORMATS = ['tif', 'png', 'jpg'] as const
/** A picture is delivered from what it was fused to: by each kind of that in all formats, by others that come to the same in JPEG. */
const IN_ALL = ['srgb16.tif', 'p3.png', 'wide16.tif', 'grey16.tif', 'cmyk.tif', 'plain.png']

/** A render delivered as it is, in a format. */
async function madeAs(renderId: number, format: FinishedFormat): Promise<string> {
  const { db, jobs, work, store } = server.context
  const { name } = await jobs.outcome<'finish'>(await work.finish(renderId, { recipe: { ...AS_IT_IS, quality: 95 }, format }))
  return (await finishedFile(db, store.folders, renderId, name)).file
}

/** A tool that is none of ours: reads any picture and its profile, and answers sRGB of 16 bits. */
function judged(file: string): Uint16Array {
  const { status, stdout, stderr } = spawnSync(
    '/usr/bin/convert',
    [
      `${file}[0]`,
      '+black-point-compensation',
      '-intent',
      'relative',
      '-profile',
      at('srgb.icc'),
      '-colorspace',
      'sRGB',
      '-alpha',
      'off',
      '-depth',
      '16',
      '-endian',
      'LSB',
      'rgb:-',
    ],
    { maxBuffer: 1e9 },
  )
  if (status !== 0) throw new Error(stderr.toString())
  return new Uint16Array(stdout.buffer, stdout.byteOffset, stdout.length / 2)
}

async function patches(grey: boolean): Promise<string> {
  const file = at(`patches-${grey}.png`)
  const samples = Buffer.alloc(WIDTH * HEIGHT * 3)
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const hex = PATCHES[Math.floor(y / SIDE) * 4 + Math.floor(x / SIDE)]
      const rgb = [1, 3, 5].map((k) => parseInt(hex.slice(k, k + 2), 16))
      samples.set(grey ? rgb.map(() => rgb[1]) : rgb, 3 * (y * WIDTH + x))
    }
  await sharp(samples, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
    .png()
    .toFile(file)
  return file
}

/** Writes the patches in a colour space, by the tool that is none of ours. */
async function frame(name: string, bits: number, profile?: string, more: readonly string[] = []): Promise<string> {
  const file = at(name)
  const grey = profile === 'grey' || more.includes('Gray')
  const tag = profile ? ['-profile', at('srgb.icc'), '-profile', at(`${profile}.icc`)] : ['-strip']
  const { status, stderr } = spawnSync('/usr/bin/convert', [await patches(grey), ...tag, ...more, '-depth', String(bits), '-quality', '98', file])
  if (status !== 0) throw new Error(stderr.toString())
  return file
}

/** Samples as bytes, which are compared much faster than one by one. */
const bytesOf = ({ buffer, byteOffset, byteLength }: Uint8Array | Uint16Array) => Buffer.from(buffer, byteOffset, byteLength)

const different = differenceCiede2000()
const lab = converter('lab')

/** How far two pictures lie apart in the middle of each patch: CIEDE2000, mean and largest. */
function apart(one: Uint16Array, other: Uint16Array, width = WIDTH): { mean: number; most: number } {
  const scale = width / WIDTH
  const found = PATCHES.map((_, k) => {
    const [x, y] = [(k % 4) * SIDE + SIDE / 2, Math.floor(k / 4) * SIDE + SIDE / 2]
    const colour = (samples: Uint16Array, from: number): Rgb => {
      const [r, g, b] = samples.subarray(from, from + 3)
      return { mode: 'rgb', r: r / 65535, g: g / 65535, b: b / 65535 }
    }
    const a = colour(one, 3 * (y * WIDTH + x))
    const b = colour(other, 3 * (Math.round(y * scale) * width + Math.round(x * scale)))
    return different(lab(a), lab(b))
  })
  return { mean: found.reduce((a, b) => a + b) / found.length, most: Math.max(...found) }
}

/**
 * How far a JPEG that another encoder makes of the picture lies from it, in its own profile or in sRGB: eight bits of luma and
 * colour difference cannot do better, and in wide spaces a step of them is more than half a unit.
 */
function jpegLimit(source: string, truth: Uint16Array, view: boolean): number {
  const made = `${source}.judge.jpg`
  const toScreen = view ? ['+black-point-compensation', '-intent', 'relative', '-profile', at('srgb.icc')] : []
  const { status, stderr } = spawnSync('/usr/bin/convert', [source, ...toScreen, '-quality', view ? '90' : '95', '-sampling-factor', '1x1', made])
  if (status !== 0) throw new Error(stderr.toString())
  return Math.max(0.5, apart(truth, judged(made)).mean + 0.1)
}

const SPACES: [name: string, file: string, bits: number, profile: string | undefined, more: string[]][] = [
  ['8-bit JPEG, sRGB', 'srgb8.jpg', 8, 'srgb', ['-sampling-factor', '1x1']],
  ['16-bit TIFF, sRGB', 'srgb16.tif', 16, 'srgb', []],
  ['16-bit PNG, like Display P3', 'p3.png', 16, 'p3', []],
  ['8-bit TIFF, like Display P3', 'p38.tif', 8, 'p3', []],
  ['16-bit TIFF, wide', 'wide16.tif', 16, 'wide', []],
  ['8-bit JPEG, wide', 'wide8.jpg', 8, 'wide', ['-sampling-factor', '1x1']],
  ['8-bit grey PNG with a profile', 'grey8.png', 8, 'grey', []],
  ['16-bit grey TIFF with a profile', 'grey16.tif', 16, 'grey', []],
  ['8-bit grey PNG without one', 'plaingrey.png', 8, undefined, ['-colorspace', 'Gray']],
  ['8-bit CMYK JPEG', 'cmyk.jpg', 8, 'cmyk', []],
  ['8-bit CMYK TIFF', 'cmyk.tif', 8, 'cmyk', []],
  ['8-bit PNG without a profile', 'plain.png', 8, undefined, []],
  ['16-bit TIFF without a profile', 'plain.tif', 16, undefined, []],
]

test.each(SPACES)(
  '%s: import, fusing, every delivery, thumbnail and tile keep its colours',
  async (_, file, bits, profile, more) => {
    const source = await frame(file, bits, profile, more)
    const truth = judged(source)
    const { db, jobs, work, store, shoots } = server.context
    const shootId = await server.newShoot()
    const runId = await shoots.addRun(shootId, 'imported')
    const contents = await readFile(source)
    const frames = [await server.add(runId, `a${path.extname(file)}`, contents), await server.add(runId, `b${path.extname(file)}`, contents)]
    const settings = { style: 'auto', bits: 16, crop: 'none', register: false, localWarp: 'never' } as const
    const { render: renderId } = await jobs.outcome<'fuse'>(await work.fuse(runId, settings))
    const close = (samples: Uint16Array, width?: number, most_mean = 0.5) => {
      const { mean, most } = apart(truth, samples, width)
      expect(mean).toBeLessThanOrEqual(most_mean)
      expect(most).toBeLessThanOrEqual(2)
    }
    const render = await renderOf(db, renderId)
    const kept = path.join(store.folders.render(render.folder), 'result.tif')
    for (const format of IN_ALL.includes(file) ? FORMATS : (['jpg'] as const)) {
      const made = await madeAs(renderId, format)
      // A JPEG of few wide colours rounds more than half a unit by itself: no more than another encoder's.
      close(judged(made), WIDTH, format === 'jpg' ? jpegLimit(source, truth, false) : 0.5)
      // The very samples of the render, rounded for JPEG only, and its very profile.
      if (format !== 'jpg') expect(bytesOf((await readSamples(made)).samples).equals(bytesOf((await readSamples(kept)).samples))).toBe(true)
      expect((await readFacts(made)).colour.icc?.toString('hex')).toBe((await readFacts(kept)).colour.icc?.toString('hex'))
    }
    const limit = jpegLimit(source, truth, profile !== undefined)
    for (const [from, name] of [
      [store.folders.frame(runId, frames[0].file), `frame-${file}`],
      [kept, `render-${file}`],
    ]) {
      const thumb = await thumbnail(from, at(`thumbs/${name}.jpg`), WIDTH)
      close(judged(thumb), WIDTH, limit)
      await zoomPyramid(from, at(`zoom/${name}`))
      close(judged(path.join(at(`zoom/${name}`), 'picture_files', '8', '0_0.jpeg')), WIDTH, limit)
    }
  },
  120_000,
)

test('frames in RGB are delivered sample by sample as they came, where all of them are the same', async () => {
  const source = await frame('same.tif', 16, 'wide')
  const { jobs, work, shoots } = server.context
  const runId = await shoots.addRun(await server.newShoot(), 'imported')
  for (const name of ['a.tif', 'b.tif']) await server.add(runId, name, await readFile(source))
  const settings = { style: 'mellow', bits: 16, crop: 'none', register: false, localWarp: 'never' } as const
  const { render } = await jobs.outcome<'fuse'>(await work.fuse(runId, settings))
  const made = await madeAs(render, 'tif')
  const [{ samples }, { samples: before }] = [await readSamples(made), await readSamples(source)]
  // Fusing goes through sums of pyramids: the last digit of 65536 may differ, the profile not.
  let most = 0
  for (let i = 0; i < samples.length; i++) most = Math.max(most, Math.abs(samples[i] - before[i]))
  expect(most).toBeLessThanOrEqual(2)
  expect((await readFacts(made)).colour.icc!.equals(await readFile(at('wide.icc')))).toBe(true)
})

test('what the reference was taken with is in TIFF, PNG and JPEG, as a tool that is none of ours reads it', async () => {
  const source = await frame('taken.jpg', 8, 'srgb')
  spawnSync('exiftool', [
    '-q',
    '-overwrite_original',
    '-Model=Body A',
    '-LensModel=Macro 100',
    '-FNumber=5.6',
    '-ExposureTime=1/13',
    '-ISO=200',
    source,
  ])
  spawnSync('exiftool', ['-q', '-overwrite_original', '-FocalLength=100', '-DateTimeOriginal=2026:05:11 09:30:04', source])
  const { db, jobs, work, store, shoots } = server.context
  const runId = await shoots.addRun(await server.newShoot(), 'imported')
  for (const name of ['a.jpg', 'b.jpg']) await server.add(runId, name, await readFile(source))
  const settings = { style: 'auto', bits: 16, crop: 'none', register: false, localWarp: 'never' } as const
  const { render } = await jobs.outcome<'fuse'>(await work.fuse(runId, settings))
  const kept = path.join(store.folders.render((await renderOf(db, render)).folder), 'result.tif')
  const files = [kept]
  for (const format of FORMATS) {
    files.push(await madeAs(render, format))
  }
  for (const file of files) expectTaken(file, 5)
})

test('frames of another profile, or of none, are refused with both names', async () => {
  const runId = await server.newRun()
  await server.add(runId, 'a.jpg', await readFile(await frame('one.jpg', 8, 'srgb')))
  for (const [name, profile] of [
    ['b.jpg', 'wide'],
    ['c.jpg', undefined],
  ] as const)
    await expect(server.add(runId, name, await readFile(await frame(`other-${name}`, 8, profile)))).rejects.toMatchObject({ code: 'frame.profile' })
  expect(await server.framesOf(runId)).toEqual(['a.jpg'])
})

test('a source map of more than 256 frames has a colour for each', async () => {
  const values = Uint16Array.from({ length: 400 }, (_, k) => k)
  await sharp(values, { raw: { width: 400, height: 1, channels: 1 } })
    .toColourspace('grey16')
    .png()
    .toFile(at('source.png'))
  await mkdir(at('maps'), { recursive: true })
  const { colouredSourceMap } = await import('.')
  await colouredSourceMap(at('source.png'), at('maps/map.png'), 400)
  const { data, info } = await sharp(at('maps/map.png')).raw().toBuffer({ resolveWithObject: true })
  const colour = (k: number) => data.subarray(k * info.channels, k * info.channels + 3).join()
  expect(colour(0)).not.toBe(colour(256))
  expect(new Set(Array.from({ length: 400 }, (_, k) => colour(k))).size).toBeGreaterThan(150)
})
