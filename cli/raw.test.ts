import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { readFacts, readSamples } from '@/codec'
import { expectRefused, nitidus, nitidusProcess } from './testCommand'

let folder: string
const at = (...names: string[]) => path.join(folder, ...names)
const ok = (args: string[]) => {
  const { stderr, stdout, status } = nitidus(args)
  expect([stderr, status]).toEqual(['', 0])
  return stdout
}
const NAMES = ['frame_001.dng', 'frame_002.dng', 'frame_003.dng', 'frame_004.dng']
const still = ['--local-warp', 'never', '--moving', 'blend', '--dust', 'off', '--crop', 'none']

beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'raw-'))
  const camera = { width_px: 720, height_px: 480, mover: 'ring', fNumber: 5.6 }
  writeFileSync(at('scene.json'), JSON.stringify({ scene: 'bristles', files: 'dng', camera, positions_mm: [0, 2, 4, 6] }))
  ok(['simulate', at('scene.json'), '--out', at('card')])
  ok(['develop', at('card'), '--out', at('tiffs')])
})
afterAll(() => rmSync(folder, { recursive: true }))

test('a folder of raw files is developed into TIFFs of their names, the originals untouched', async () => {
  const before = NAMES.map((name) => readFileSync(at('card', name)))
  expect(readdirSync(at('tiffs')).sort()).toEqual(NAMES.map((name) => name.replace('dng', 'tif')))
  const facts = await readFacts(at('tiffs', 'frame_002.tif'))
  expect(facts).toMatchObject({ width: 720, height: 480, bits: 16 })
  NAMES.forEach((name, k) => expect(readFileSync(at('card', name)).equals(before[k])).toBe(true))
})

test('fusing a folder of raw files is fusing what they are developed into, and leaves nothing lying about', async () => {
  const lying = () => readdirSync(tmpdir()).filter((name) => name.startsWith('nitidus-')).length
  const before = lying()
  expect(nitidusProcess(['fuse', at('card'), '--out', at('raw.tif'), '--report', at('raw.json'), ...still]).status).toBe(0)
  expect(lying()).toBe(before)
  ok(['fuse', at('tiffs'), '--out', at('tiff.tif'), ...still])
  const [one, other] = [await readSamples(at('raw.tif')), await readSamples(at('tiff.tif'))]
  expect(Buffer.compare(Buffer.from(one.samples.buffer), Buffer.from(other.samples.buffer))).toBe(0)
  const { frames } = JSON.parse(readFileSync(at('raw.json'), 'utf8')) as { frames: { file: string }[] }
  expect(frames.map(({ file }) => file)).toEqual(NAMES)
})

test('captures between which the sensor was shifted are one frame each, by any verb', async () => {
  const camera = { width_px: 300, height_px: 200, mover: 'rail', fNumber: 5.6, magnification: 0.5 }
  writeFileSync(at('sets.json'), JSON.stringify({ scene: 'nib', files: 'dng', captures: 16, camera, positions_mm: [0, 5, 10] }))
  ok(['simulate', at('sets.json'), '--out', at('sets')])
  const firsts = ['frame_001_01', 'frame_002_01', 'frame_003_01']
  ok(['develop', at('sets'), '--out', at('merged')])
  expect(readdirSync(at('merged')).filter((name) => name.endsWith('.tif'))).toEqual(firsts.map((name) => `${name}.tif`))
  ok(['fuse', at('sets'), '--out', at('set.tif'), '--report', at('set.json'), ...still])
  const { frames, crop } = JSON.parse(readFileSync(at('set.json'), 'utf8')) as { frames: { file: string; captures: object }[]; crop: object }
  expect(frames.map(({ file }) => file)).toEqual(firsts.map((name) => `${name}.dng`))
  for (const { captures } of frames) expect(captures).toMatchObject({ taken: 16, used: 16 })
  expect(crop).toEqual({ x: 0, y: 0, width: 600, height: 400 })
  const { series } = JSON.parse(ok(['split', at('sets')])) as { series: { files: string[]; captures: { sets: string[][]; finer: number } }[] }
  expect(series.map(({ files, captures }) => [files.length, captures.sets.map((set) => set.length), captures.finer])).toEqual([[48, [16, 16, 16], 2]])
})

test('some of them by name are developed as the first of the folder would have it', async () => {
  ok(['fuse', at('card'), '--frames', 'frame_003.dng,frame_004.dng', '--out', at('two.tif'), ...still])
  ok(['fuse', at('tiffs'), '--frames', 'frame_003.tif,frame_004.tif', '--out', at('twoTiffs.tif'), ...still])
  const [one, other] = [await readSamples(at('two.tif')), await readSamples(at('twoTiffs.tif'))]
  expect(Buffer.compare(Buffer.from(one.samples.buffer), Buffer.from(other.samples.buffer))).toBe(0)
})

test('a series of raw files is surveyed under their own names', () => {
  const { frames } = JSON.parse(ok(['survey', at('card')])) as { frames: { file: string }[] }
  expect(frames.map(({ file }) => file).sort()).toEqual(NAMES)
})

test('a job develops the raw frames that nobody has developed yet, and no others', async () => {
  const development = { multipliers: [2, 1, 1.515], headroom: 1 }
  mkdirSync(at('made'))
  const frames = NAMES.map((name, k) => ({ name, file: at('made', `${k}.tif`), raw: { file: at('card', name), development } }))
  // One is there already.
  writeFileSync(at('made', '1.tif'), readFileSync(at('tiffs', 'frame_002.tif')))
  const there = readFileSync(at('made', '1.tif'))
  const settings = { style: 'lace', bits: 16, crop: 'none', register: false, localWarp: 'never' }
  writeFileSync(at('job.json'), JSON.stringify({ version: 1, kind: 'fuse', frames, settings, outputs: { out: at('job.tif') } }))
  ok(['run', at('job.json')])
  expect(readFileSync(at('made', '1.tif')).equals(there)).toBe(true)
  expect(frames.every(({ file }) => existsSync(file))).toBe(true)
  expect(await readFacts(at('job.tif'))).toMatchObject({ width: 720, height: 480 })
})

test('what cannot be developed is refused in a sentence', () => {
  expectRefused(nitidus(['develop', at('tiffs'), '--out', at('none')]), 'raw.none')
  expectRefused(nitidus(['develop', at('card'), '--out', at('none'), '--like', 'frame_009.dng']), 'series.noSuchFrame')
  mkdirSync(at('bad'))
  for (const name of ['a.dng', 'b.dng']) writeFileSync(at('bad', name), 'no picture')
  expectRefused(nitidus(['develop', at('bad'), '--out', at('none')]), 'raw.unreadable')
  expectRefused(nitidus(['fuse', at('bad'), '--out', at('bad.tif')]), 'raw.unreadable')
  expect(existsSync(at('bad.tif'))).toBe(false)
})
