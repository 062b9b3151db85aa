import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { readSamples } from '@/codec'
import type { SurveyReport } from '@/core/survey'
import { expectRefused, nitidus } from './testCommand'

let folder: string
const at = (...names: string[]) => path.join(folder, ...names)
const ok = (args: string[]) => {
  const answer = nitidus(args)
  expect([answer.stderr, answer.status]).toEqual(['', 0])
  return answer.stdout
}
/** Fuses a folder and answers the samples, 0 … 1. */
async function fused(name: string, ...args: string[]): Promise<Float64Array> {
  const still = ['--crop', 'none', '--local-warp', 'never', '--moving', 'blend']
  ok(['fuse', at(name), '--out', at('out.tif'), ...still, '--report', at(`${name}.json`), ...args])
  const { samples } = await readSamples(at('out.tif'))
  return Float64Array.from(samples, (value) => value / 65535)
}

beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'dust-'))
  const camera = { width_px: 480, height_px: 320, mover: 'ring', fNumber: 5.6, magnification: 0.5, focalLength_mm: 100 }
  const positions_mm = Array.from({ length: 12 }, (_, k) => -1 + 2.2 * k)
  for (const [name, faults] of [
    ['clean', []],
    ['dusty', [{ kind: 'dust', specks: 4 }]],
  ] as const) {
    writeFileSync(at('scene.json'), JSON.stringify({ scene: 'bowl', seed: 13, camera, positions_mm, faults }))
    ok(['simulate', at('scene.json'), '--out', at(name)])
  }
})
afterAll(() => rmSync(folder, { recursive: true }))

test('dust on the sensor leaves no trail in the picture, and the report says where it was', async () => {
  const [clean, off, kept] = [await fused('clean'), await fused('dusty', '--dust', 'off'), await fused('dusty')]
  const trail = [...off.keys()].filter((i) => Math.abs(off[i] - clean[i]) > 0.03)
  expect(trail.length).toBeGreaterThan(500)
  const error = (picture: Float64Array) => Math.sqrt(trail.reduce((sum, i) => sum + (picture[i] - clean[i]) ** 2, 0) / trail.length)
  expect(error(kept)).toBeLessThan(0.25 * error(off))
  const { dust } = JSON.parse(readFileSync(at('dusty.json'), 'utf8')) as { dust: { darkness: number }[] }
  expect(dust.length).toBeGreaterThanOrEqual(3)
  for (const { darkness } of dust) expect(Math.abs(darkness - 0.5)).toBeLessThan(0.1)
})

test('the survey tells of dust, and of none where there is none', () => {
  const codes = (name: string) => (JSON.parse(ok(['survey', at(name)])) as SurveyReport).messages.map(({ code }) => code)
  expect(codes('dusty')).toContain('dust')
  expect(codes('clean')).not.toContain('dust')
})

test.each([
  ['--dust', 'maybe', 'value.any.only'],
  ['--prefer', 'both', 'value.any.only'],
  ['--boundary', '1.5', 'value.number.max'],
  ['--neighbourhood', '2.5', 'value.number.integer'],
  ['--floor', 'high', 'value.number.base'],
])('%s %s is refused in a sentence', (option, value, code) => {
  expectRefused(nitidus(['fuse', at('clean'), '--out', at('out.tif'), option, value]), code)
})
