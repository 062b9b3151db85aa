import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import type { MeasuredTarget } from '@/core/learn/target'
import { expectRefused, nitidus } from './testCommand'

let folder: string
const at = (...names: string[]) => path.join(folder, ...names)
const OFFSETS_mm = [-2.2, -1.1, 0, 1.1]
/** The middle of the sheet lies half its depth behind its near end. */
const MIDDLE_mm = 33 * Math.sin(Math.PI / 4)

function shoot(name: string, change: object): void {
  const camera = { width_px: 900, height_px: 600, fNumber: 5.6, magnification: 1 }
  writeFileSync(
    at(`${name}.json`),
    JSON.stringify({ scene: 'target', camera, positions_mm: OFFSETS_mm.map((offset) => MIDDLE_mm + offset), ...change }),
  )
  expect(nitidus(['simulate', at(`${name}.json`), '--out', at(name)]).status).toBe(0)
}

const measure = (name: string, facts: object, what = 'target') => {
  writeFileSync(at('target.json'), JSON.stringify(facts))
  return nitidus(['measure', what, at(name), '--target', at('target.json')])
}

beforeAll(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'measure-'))
  shoot('sheet', {})
  shoot('shell', { scene: 'fossil', positions_mm: [1, 2] })
})
afterAll(() => rmSync(folder, { recursive: true }))

test('JPEGs of the sheet become planes of focus, a stride and a depth of field, as JSON on standard output', () => {
  const { stdout, stderr, status } = measure('sheet', { pitch_mm: 1, sensorWidth_mm: 36 })
  expect([stderr, status]).toEqual(['', 0])
  const found = JSON.parse(stdout) as MeasuredTarget
  expect(found.frames.map(({ file }) => file)).toEqual(OFFSETS_mm.map((_, k) => `frame_00${k + 1}.jpg`))
  // A slice is 1.8 mm deep.
  found.frames.forEach(({ focus_mm }, k) => expect(Math.abs((focus_mm ?? NaN) - OFFSETS_mm[k])).toBeLessThan(0.1))
  expect(Math.abs(found.stride_mm! / 1.1 - 1)).toBeLessThan(0.02)
  expect(found.strideSpread_mm!).toBeLessThan(0.1)
  // The f-number is what the camera wrote into its files.
  expect(Math.abs(found.depthOfFieldRatio! - 1)).toBeLessThan(0.1)
  expect(found.sharpest).toBeNull()
})

test('a sheet that was printed smaller is measured by the length of its bar', () => {
  const lengths = (facts: object) => (JSON.parse(measure('sheet', facts).stdout) as MeasuredTarget).stride_mm!
  expect(lengths({ pitch_mm: 1, bar_mm: 19.4 }) / lengths({ pitch_mm: 1 })).toBeCloseTo(0.97, 6)
})

test('what cannot be measured is refused in a sentence, without figures', () => {
  expectRefused(measure('shell', { pitch_mm: 1 }), 'target.notSeen')
  expectRefused(measure('sheet', {}), 'value.any.required')
  expectRefused(measure('sheet', { pitch_mm: 0 }), 'value.number.greater')
  expectRefused(measure('sheet', { pitch_mm: 1, lens: 'mine' }), 'value.object.unknown')
  expectRefused(measure('sheet', { pitch_mm: 1 }, 'ruler'), 'command.measureWhat')
  mkdirSync(at('empty'))
  expectRefused(measure('empty', { pitch_mm: 1 }), 'folder.noPictures')
  writeFileSync(at('sheet', 'target.txt'), 'no JSON')
  expectRefused(nitidus(['measure', 'target', at('sheet'), '--target', at('sheet', 'target.txt')]), 'command.noJson')
})
