import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import sharp from 'sharp'
import type { NeededReport } from '@/schemas'
import { expectRefused, nitidus } from './testCommand'

let folder: string
const at = (...names: string[]) => path.join(folder, ...names)
const ok = (args: string[]) => {
  const { status, stderr, stdout } = nitidus(args)
  expect([stderr, status]).toEqual(['', 0])
  return stdout
}
const still = ['--local-warp', 'never', '--moving', 'blend', '--dust', 'off']
const asked = (report: string) => JSON.parse(ok(['frames-needed', at('frames'), '--report', at(report), '--looks', at('looks')])) as NeededReport

beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'needed-'))
  const camera = { width_px: 480, height_px: 320, mover: 'ring', fNumber: 4 }
  const scene = { scene: 'fossil', seed: 3, camera, positions_mm: Array.from({ length: 21 }, (_, k) => -1 + 0.5 * k) }
  writeFileSync(at('scene.json'), JSON.stringify(scene))
  ok(['simulate', at('scene.json'), '--out', at('frames')])
  ok(['fuse', at('frames'), '--out', at('all.tif'), '--report', at('all.json'), '--crop', 'none', ...still])
})
afterAll(() => rmSync(folder, { recursive: true }))

test('of a run shot too densely fewer frames would have done: in words, with decibels that another reader of the pictures confirms', async () => {
  const { subsets, fewest, text, code } = asked('all.json')
  expect(code).toBe('needed.fewer')
  expect(fewest.frames).toBeGreaterThanOrEqual(4)
  expect(fewest.frames).toBeLessThanOrEqual(11)
  // The clock of the simulated camera: four seconds a frame.
  expect(text).toContain(`${fewest.frames} instead of 21, ${21 - fewest.frames} frames and ${4 * (21 - fewest.frames)} s saved.`)
  expect(subsets.map(({ frames }) => frames.length)).toEqual([...subsets].map(({ frames }) => frames.length).sort((a, b) => b - a))
  for (const { visible, frames } of subsets) expect(visible).toBe(frames.length < fewest.frames)
  const [second] = subsets
  expect(second).toMatchObject({ every: 2, frames: expect.arrayContaining(['frame_001.jpg', 'frame_003.jpg', 'frame_021.jpg']) })

  // The same frames fused by the command, framed and registered alike, lie as far from the whole as told.
  ok(['fuse', at('frames'), '--frames', second.frames.join(','), '--reference', '6', '--out', at('half.tif'), '--crop', 'none', ...still])
  const luma = async (name: string) => {
    const { data } = await sharp(at(name)).removeAlpha().toColourspace('rgb16').raw({ depth: 'ushort' }).toBuffer({ resolveWithObject: true })
    const samples = new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2)
    return Float64Array.from(
      { length: samples.length / 3 },
      (_, i) => (0.2126 * samples[3 * i] + 0.7152 * samples[3 * i + 1] + 0.0722 * samples[3 * i + 2]) / 65535,
    )
  }
  const [all, half] = [await luma('all.tif'), await luma('half.tif')]
  const square = all.reduce((sum, value, i) => sum + (value - half[i]) ** 2, 0) / all.length
  // Registered anew, half the frames lie a few hundredths of a px elsewhere.
  expect(Math.abs(-10 * Math.log10(square) - second.psnr_dB)).toBeLessThan(1.5)

  // Where most is lost can be looked at.
  const shown = subsets.filter(({ softest }) => softest)
  expect(shown.length).toBeGreaterThan(0)
  expect(readdirSync(at('looks')).sort()).toEqual(shown.map(({ frames }) => `${frames.length}.png`).sort())
  for (const { frames, softest } of shown)
    expect(await sharp(at('looks', `${frames.length}.png`)).metadata()).toMatchObject({ width: softest!.width, height: softest!.height })
})

test('a run of few frames, one that lost a frame, and a report that is none are refused in a sentence', () => {
  const report = JSON.parse(readFileSync(at('all.json'), 'utf8'))
  writeFileSync(at('few.json'), JSON.stringify({ ...report, frames: report.frames.slice(0, 3) }))
  expectRefused(nitidus(['frames-needed', at('frames'), '--report', at('few.json')]), 'needed.few')
  writeFileSync(at('gone.json'), JSON.stringify({ ...report, frames: [...report.frames, { ...report.frames[0], file: 'gone.jpg' }] }))
  expectRefused(nitidus(['frames-needed', at('frames'), '--report', at('gone.json')]), 'mend.frameGone')
  writeFileSync(at('none.json'), '{}')
  expectRefused(nitidus(['frames-needed', at('frames'), '--report', at('none.json')]), 'value.any.required')
})
