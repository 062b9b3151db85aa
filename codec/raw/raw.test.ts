import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, truncateSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { converter, differenceCiede2000 } from 'culori'
import { brightestOf, developmentFrom, type Development } from '@/core/develop'
import { createPicture, type Picture } from '@/core/raster'
import { countPhotons } from '@/core/simulate'
import { readFacts, readSamples, RawReader, writeRaw } from '..'
import { profileOf } from '../convert'

/** Colours as linear light, and how much of a patch is looked at: its middle, away from what the filters' pattern makes of borders. */
const PATCHES = [
  [0.8, 0.8, 0.8],
  [0.18, 0.18, 0.18],
  [0.03, 0.03, 0.03],
  [0.5, 0.1, 0.08],
  [0.1, 0.35, 0.12],
  [0.06, 0.12, 0.45],
  [0.6, 0.5, 0.1],
  [0.4, 0.25, 0.15],
]
const [WIDTH, HEIGHT, SIDE] = [512, 256, 128]
const WHITE = 1.25
const taken = {
  body: 'Body A',
  lens: undefined,
  taken_at: '2026-05-11T09:30:16.000Z',
  exposure_s: 0.125,
  fNumber: 5.6,
  focalLength_mm: 100,
  iso: 100,
}

let folder: string
let reader: RawReader
const at = (name: string) => path.join(folder, name)
beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'raw-'))
  reader = new RawReader(path.resolve('dist/raw.mjs'))
})
afterAll(async () => {
  await reader.close()
  rmSync(folder, { recursive: true })
})

function light(patches: number[][], factor = 1): Picture {
  const picture = createPicture(WIDTH, HEIGHT)
  picture.planes.forEach(({ data }, channel) => {
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++) data[y * WIDTH + x] = WHITE * factor * patches[4 * Math.floor(y / SIDE) + Math.floor(x / SIDE)][channel]
  })
  return picture
}

async function shot(name: string, patches = PATCHES, exposure = 1): Promise<string> {
  const seen = light(patches)
  await writeRaw(at(name), countPhotons(seen, { fullWell: 60_000, readNoise: 3, exposure, softness_px: 0.5 }, 7), seen, taken, 'test')
  return at(name)
}

/** Mean colour of the middle of each patch, in sRGB, as a tool that is none of ours converts it. */
function middles(file: string): { mode: 'rgb'; r: number; g: number; b: number }[] {
  writeFileSync(at('srgb.icc'), profileOf('srgb'))
  const { stdout, stderr, status } = spawnSync(
    '/usr/bin/convert',
    [file, '-intent', 'relative', '-profile', at('srgb.icc'), '-depth', '16', '-endian', 'LSB', 'rgb:-'],
    { maxBuffer: 1e9 },
  )
  if (status !== 0) throw new Error(stderr.toString())
  return meansOf(new Uint16Array(stdout.buffer, stdout.byteOffset, stdout.length / 2), (value) => value / 65_535)
}

function meansOf(samples: Uint16Array, scale: (value: number) => number) {
  return PATCHES.map((_, k) => {
    const sums = [0, 0, 0]
    let count = 0
    for (let y = SIDE * (k >> 2) + SIDE / 4; y < SIDE * (k >> 2) + (3 * SIDE) / 4; y++)
      for (let x = SIDE * (k & 3) + SIDE / 4; x < SIDE * (k & 3) + (3 * SIDE) / 4; x++, count++)
        for (let c = 0; c < 3; c++) sums[c] += scale(samples[3 * (y * WIDTH + x) + c])
    return { mode: 'rgb' as const, r: sums[0] / count, g: sums[1] / count, b: sums[2] / count }
  })
}

const encode = (value: number) => (value <= 0.0031308 ? 12.92 * value : 1.055 * value ** (1 / 2.4) - 0.055)
const apart = differenceCiede2000()
const lab = converter('lab')

test('a raw file comes out in its true colours, in the wide space, with what it was taken with', async () => {
  const file = await shot('a.dng')
  const { development, ...facts } = await reader.look(file)
  expect(facts).toMatchObject({ width: WIDTH, height: HEIGHT, taken, preview: false })
  await reader.develop(file, at('a.tif'), development)
  middles(at('a.tif')).forEach((colour, k) => {
    const [r, g, b] = PATCHES[k].map(encode)
    expect(apart(lab(colour), lab({ mode: 'rgb', r, g, b }))).toBeLessThanOrEqual(1.5)
  })
  const made = await readFacts(at('a.tif'))
  expect(made).toMatchObject({ width: WIDTH, height: HEIGHT, bits: 16 })
  expect(made.colour.icc?.equals(profileOf('wide'))).toBe(true)
  const { stdout } = spawnSync('exiftool', ['-s3', '-Model', '-FNumber', '-DateTimeOriginal', at('a.tif')], { encoding: 'utf8' })
  expect(stdout.trim().split('\n')).toEqual(['Body A', '5.6', '2026:05:11 09:30:16'])
})

test('a place that is chosen becomes grey, in every frame alike', async () => {
  // The light is warm: what the camera noted is not what is wanted.
  const warm = PATCHES.map(([red, green, blue]) => [1.3 * red, green, 0.6 * blue])
  const file = await shot('warm.dng', warm)
  const grey = PATCHES.findIndex(([red, green, blue]) => red === green && green === blue && red < 0.5)
  const neutral: [number, number] = [((grey & 3) * SIDE + SIDE / 2) / WIDTH, ((grey >> 2) * SIDE + SIDE / 2) / HEIGHT]
  const chroma = async (name: string, development: Development) => {
    await reader.develop(file, at(name), development)
    const { a, b } = lab(middles(at(name))[grey])!
    return Math.hypot(a, b)
  }
  expect(await chroma('noted.tif', (await reader.look(file)).development)).toBeGreaterThan(8)
  expect(await chroma('grey.tif', (await reader.look(file, 'warm.dng', { neutral })).development)).toBeLessThan(0.5)
  await expect(
    reader.look(
      await shot(
        'white.dng',
        PATCHES.map(() => [9, 9, 9]),
      ),
      'white.dng',
      { neutral },
    ),
  ).rejects.toMatchObject({
    code: 'raw.neutralLight',
  })
})

test('what another raw converter makes of the file has the same colours', async () => {
  const file = await shot('b.dng')
  const { development } = await reader.look(file)
  await reader.develop(file, at('b.tif'), development)
  // Light as it is, in linear sRGB, white balance as shot, nothing automatic.
  const { status, stderr } = spawnSync(
    'dcraw_emu',
    ['-w', '-W', '-c', '0', '-g', '1', '1', '-o', '1', '-4', '-H', '0', '-T', '-Z', at('other.tif'), file],
    {
      encoding: 'utf8',
    },
  )
  expect([status, stderr]).toEqual([0, expect.any(String)])
  const other = await readSamples(at('other.tif'))
  const theirs = meansOf(other.samples as Uint16Array, (value) => encode(value / 65_535))
  middles(at('b.tif')).forEach((colour, k) => expect(apart(lab(colour), lab(theirs[k]))).toBeLessThanOrEqual(0.6))
})

test('frames of a series are developed alike, whatever else is in them', async () => {
  const bright = PATCHES.map((patch, k) => (k === 0 ? [1.2, 1.2, 1.2] : patch))
  const dark = PATCHES.map((patch, k) => (k === 0 ? [0.01, 0.02, 0.01] : patch))
  const files = [await shot('1.dng'), await shot('2.dng', bright), await shot('3.dng', dark)]
  const { development } = await reader.look(files[0])
  const found: ReturnType<typeof meansOf>[] = []
  for (const file of files) {
    await reader.develop(file, `${file}.tif`, development)
    found.push(meansOf((await readSamples(`${file}.tif`)).samples as Uint16Array, (value) => (value / 65_535) ** 2.2))
  }
  for (const frame of found.slice(1))
    frame.slice(1).forEach((colour, k) => expect(Math.abs(Math.log2(colour.g / found[0][k + 1].g))).toBeLessThanOrEqual(0.01))
})

test('what is brighter than white in one colour only is kept', async () => {
  // Red light fills its pixels to two thirds; made grey with the rest it would be far beyond white.
  const patches = PATCHES.map((patch, k) => (k === 3 ? [2.1, 0.25, 0.2] : patch))
  const file = await shot('red.dng', patches)
  const { development } = await reader.look(file)
  expect(development.headroom).toBeGreaterThan(1.1)
  await reader.develop(file, at('red.tif'), development)
  const { samples } = await readSamples(at('red.tif'))
  const red = meansOf(samples as Uint16Array, (value) => value)[3]
  expect(red.r).toBeLessThan(65_000)
  // As bright in relation to grey as it was.
  const linear = (value: number) => ((value / 65_535 + 0.055) / 1.055) ** 2.4
  const grey = meansOf(samples as Uint16Array, linear)[0]
  expect(grey.g * development.headroom).toBeCloseTo(0.8, 1)
})

test('a picture that is not overexposed is as bright as the camera shows it', async () => {
  expect((await reader.look(await shot('c.dng'))).development.headroom).toBe(1)
  expect(developmentFrom([4, 2, 3, 2], [0.4, 0.9, 0.5])).toEqual({ multipliers: [2, 1, 1.5], headroom: 1 })
  expect(developmentFrom([2, 1, 1.5], [0.7, 0.9, 0.5]).headroom).toBeCloseTo(1.4)
  // What fills its pixels is white, whatever colour it had.
  expect(developmentFrom([2, 1, 1.5], [1, 1, 1]).headroom).toBe(1)
})

test('the brightest sample that counts is found past a few sparks', () => {
  const samples = new Uint16Array(3 * 100_000).fill(1000)
  for (let i = 0; i < 9; i++) samples[3 * i] = 65_535
  expect(brightestOf(samples)[0]).toBeCloseTo(1000 / 65_535, 4)
  for (let i = 0; i < 20; i++) samples[3 * i] = 60_000
  expect(brightestOf(samples)[0]).toBeCloseTo(60_000 / 65_535, 4)
})

test('the camera’s own small picture is taken out as it is', async () => {
  const file = await shot('d.dng')
  const { preview } = await reader.look(file, 'd.dng', { preview: at('small.jpg') })
  expect(preview).toBe(true)
  expect(await readFacts(at('small.jpg'))).toMatchObject({ width: WIDTH, height: HEIGHT, format: 'jpeg' })
})

test('a small picture that is cut otherwise than the whole one serves nobody', async () => {
  const seen = light(PATCHES)
  const square = { ...createPicture(WIDTH, WIDTH) }
  await writeRaw(at('square.dng'), countPhotons(seen, { fullWell: 60_000, readNoise: 3, exposure: 1, softness_px: 0.5 }, 7), square, taken, 'test')
  expect((await reader.look(at('square.dng'), 'square.dng', { preview: at('square.jpg') })).preview).toBe(false)
  expect(existsSync(at('square.jpg'))).toBe(false)
})

test('a raw file that is cut off, zeroed at its head, or none at all is refused by its name, and the next is read', async () => {
  const file = await shot('e.dng')
  const bytes = readFileSync(file)
  const { development } = await reader.look(file)
  writeFileSync(at('cut.dng'), bytes)
  truncateSync(at('cut.dng'), bytes.length / 2)
  writeFileSync(at('zeroed.dng'), Buffer.from(bytes).fill(0, 8, 900))
  writeFileSync(at('words.dng'), 'no picture')
  for (const name of ['cut.dng', 'zeroed.dng', 'words.dng']) {
    await expect(reader.look(at(name))).rejects.toMatchObject({ code: 'raw.unreadable', message: expect.stringContaining(name) })
    await expect(reader.develop(at(name), at('none.tif'), development)).rejects.toMatchObject({ code: 'raw.unreadable' })
  }
  await expect(reader.look(file)).resolves.toMatchObject({ width: WIDTH })
})
