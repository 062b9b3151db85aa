import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import { readSamples } from '@/codec'
import type { Place } from '@/core/inspect'
import { expectRefused, nitidus } from './testCommand'

let folder: string
const at = (...names: string[]) => path.join(folder, ...names)
const [WIDTH, HEIGHT] = [480, 320]
const GHOST = { x: 200, y: 150, radius: 26 }
const names = Array.from({ length: 9 }, (_, k) => `frame_00${k + 1}.jpg`)

const ok = (args: string[]) => {
  const { status, stderr, stdout } = nitidus(args)
  expect([stderr, status]).toEqual(['', 0])
  return stdout
}
const fuse = (frames: string, base: string) =>
  // Blended, so that what moved shows twice.
  ok([
    'fuse',
    at(frames),
    '--moving',
    'blend',
    '--crop',
    'none',
    '--out',
    at(`${base}.tif`),
    '--report',
    at(`${base}.json`),
    '--bends',
    at(`${base}-bends.json`),
  ])
const inspect = (series: string) => {
  const said = ok(['inspect', at(series), '--report', at(`${series}.json`), '--base', at(`${series}.tif`), '--bends', at(`${series}-bends.json`)])
  return (JSON.parse(said) as { places: Place[] }).places
}
/** Of the series that moved. */
let found: Place[]

beforeAll(async () => {
  folder = mkdtempSync(path.join(tmpdir(), 'inspect-'))
  const camera = { width_px: WIDTH, height_px: HEIGHT, mover: 'ring', fNumber: 5.6 }
  writeFileSync(at('scene.json'), JSON.stringify({ scene: 'fossil', seed: 5, camera, positions_mm: names.map((_, k) => 1.1 * k) }))
  for (const to of ['clean', 'moved']) ok(['simulate', at('scene.json'), '--out', at(to)])
  // A disc of the subject slips by 8 px in two frames that show it sharp.
  for (const name of ['frame_005.jpg', 'frame_006.jpg']) {
    const data = await sharp(at('clean', name)).raw().toBuffer()
    const moved = Buffer.from(data)
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++)
        if (Math.hypot(x - GHOST.x, y - GHOST.y) < GHOST.radius) {
          const from = 3 * ((y + 3) * WIDTH + x + 8)
          data.copy(moved, 3 * (y * WIDTH + x), from, from + 3)
        }
    await sharp(moved, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
      .jpeg({ quality: 95 })
      .toFile(at('moved', name))
  }
  for (const series of ['clean', 'moved']) fuse(series, series)
  found = inspect('moved')
})
afterAll(() => rmSync(folder, { recursive: true }))

test('a part that moved comes first; the frame that is suggested makes the picture more like that of the still series', async () => {
  const [worst] = found
  const { crop } = JSON.parse(readFileSync(at('moved.json'), 'utf8'))
  expect(worst.kind).toBe('ghost')
  expect(worst.severity).toBeGreaterThan(0.5)
  const middle = { x: worst.x + worst.width / 2 + crop.x, y: worst.y + worst.height / 2 + crop.y }
  expect(Math.hypot(middle.x - GHOST.x, middle.y - GHOST.y)).toBeLessThan(1.5 * GHOST.radius)
  const { frame } = worst.suggestion as { frame: string }
  expect(names).toContain(frame)
  expect(worst.text).toContain(frame)

  const radius_px = Math.max(worst.width, worst.height) / 2
  const stroke = { path: [[worst.x + worst.width / 2, worst.y + worst.height / 2]], radius_px, softness: 0.2, opacity: 1 }
  writeFileSync(at('edits.json'), JSON.stringify({ base: 'fused', edits: [{ id: '1', kind: 'donor', frame, ...stroke }] }))
  ok([
    'mend',
    at('moved'),
    '--report',
    at('moved.json'),
    '--base',
    at('moved.tif'),
    '--bends',
    at('moved-bends.json'),
    '--edits',
    at('edits.json'),
    '--out',
    at('mended.tif'),
  ])
  const [still, before, after] = await Promise.all(['clean.tif', 'moved.tif', 'mended.tif'].map((file) => readSamples(at(file))))
  expect([still.width, still.height]).toEqual([before.width, before.height])
  const error = ({ samples }: typeof before) => {
    let sum = 0
    for (let y = 0; y < before.height; y++)
      for (let x = 0, i = 3 * y * before.width; x < before.width; x++, i += 3)
        if (Math.hypot(x - stroke.path[0][0], y - stroke.path[0][1]) < radius_px) sum += (samples[i + 1] - still.samples[i + 1]) ** 2
    return Math.sqrt(sum)
  }
  expect(error(after)).toBeLessThan(0.8 * error(before))
})

test('in a still series no more than one place is above a half', () => {
  expect(inspect('clean').filter(({ severity }) => severity > 0.5).length).toBeLessThanOrEqual(1)
})

test('places lie within the picture, the worst first, and are the same each time', () => {
  const { crop } = JSON.parse(readFileSync(at('moved.json'), 'utf8'))
  for (const { x, y, width, height } of found) {
    expect(Math.min(x, y)).toBeGreaterThanOrEqual(0)
    expect(Math.min(width, height)).toBeGreaterThan(0)
    expect(x + width).toBeLessThanOrEqual(crop.width)
    expect(y + height).toBeLessThanOrEqual(crop.height)
  }
  expect(found.map(({ severity }) => severity)).toEqual(found.map(({ severity }) => severity).sort((a, b) => b - a))
  expect(inspect('moved')).toEqual(found)
})

test('a picture of another size is refused, and frames that are gone are named', async () => {
  await sharp(at('moved', 'frame_001.jpg')).resize(100).png().toFile(at('small.png'))
  expectRefused(nitidus(['inspect', at('moved'), '--report', at('moved.json'), '--base', at('small.png')]), 'mend.size')
  rmSync(at('moved', 'frame_003.jpg'))
  expectRefused(nitidus(['inspect', at('moved'), '--report', at('moved.json'), '--base', at('moved.tif')]), 'mend.frameGone')
})

test('a picture that is sharp from one slice to another is fused from those frames only, framed as with all', async () => {
  const frames = names.map((name) => ({ name, file: at('clean', name) }))
  const settings = { style: 'auto', bits: 16, crop: 'none', register: false, localWarp: 'never' }
  const job = (out: string, extra: object, some = frames) =>
    writeFileSync(
      at('job.json'),
      JSON.stringify({ version: 1, kind: 'fuse', frames: some, settings: { ...settings, ...extra }, outputs: { out: at(out) } }),
    )
  job('part.tif', { sharp: { from: 3, to: 5 } })
  ok(['run', at('job.json')])
  job('some.tif', {}, frames.slice(2, 5))
  ok(['run', at('job.json')])
  const [part, some] = await Promise.all(['part.tif', 'some.tif'].map((file) => readSamples(at(file))))
  expect(Buffer.from(part.samples.buffer).equals(Buffer.from(some.samples.buffer))).toBe(true)
  job('part.tif', { sharp: { from: 3, to: 15 } })
  expectRefused(nitidus(['run', at('job.json')]), 'series.sharpBeyond')
})
