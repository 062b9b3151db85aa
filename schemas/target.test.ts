import { BAR_pitches, LEAST_pitch_mm, MOST_pitch_mm } from '@/core/learn/target'
import { asPrinted, check, sheetRequestSchema, targetFactsSchema, type SheetRequest, type TargetFile } from '.'
import { refusedAt } from './testRefusal'

const facts = (value: object) => check<TargetFile>(targetFactsSchema, value)
const sheet = (value: object) => check<SheetRequest>(sheetRequestSchema, value)

test('what is known of a sheet is taken as it is; only the distance of its dots has to be', () => {
  const whole = { pitch_mm: 1.2, bar_mm: 24.1, sensorWidth_mm: 23.5, fNumber: 5.6, apertures: { 'a b.jpg': 8 }, pupilRatio: 1.3, allowedBlur_px: 3 }
  expect(facts(whole)).toEqual(whole)
  expect(facts({ pitch_mm: 0.05 })).toEqual({ pitch_mm: 0.05 })
})

test.each([
  [{}, 'pitch_mm', 'value.any.required'],
  [{ pitch_mm: 'one' }, 'pitch_mm', 'value.number.base'],
  [{ pitch_mm: -1 }, 'pitch_mm', 'value.number.greater'],
  [{ pitch_mm: 1, bar_mm: 0 }, 'bar_mm', 'value.number.greater'],
  [{ pitch_mm: 1, fNumber: 0.5 }, 'fNumber', 'value.number.min'],
  [{ pitch_mm: 1, apertures: { 'a.jpg': 400 } }, 'apertures.a.jpg', 'value.number.max'],
  [{ pitch_mm: 1, tilt: 45 }, 'tilt', 'value.object.unknown'],
])('%j is refused at %s', (value, field, code) => {
  expect(refusedAt(() => facts(value))).toEqual([field, code])
})

test('a measured line tells how far apart the dots really are; without one they are as they were meant', () => {
  expect(asPrinted({ pitch_mm: 1, bar_mm: 0.97 * BAR_pitches, fNumber: 8 })).toEqual({ pitch_mm: 0.97, fNumber: 8 })
  expect(asPrinted({ pitch_mm: 1.5 })).toEqual({ pitch_mm: 1.5 })
})

test('a sheet is printed on paper that there is, no finer than printers can and no wider than paper', () => {
  // As an address has them: as text.
  expect(sheet({ pitch_mm: '1.1', paper: 'A5' })).toEqual({ pitch_mm: 1.1, paper: 'A5' })
  expect(sheet({ pitch_mm: 1 }).paper).toBe('A4')
  expect(refusedAt(() => sheet({ pitch_mm: 1, paper: 'A0' }))).toEqual(['paper', 'value.any.only'])
  expect(refusedAt(() => sheet({ pitch_mm: LEAST_pitch_mm / 2 }))).toEqual(['pitch_mm', 'value.number.min'])
  expect(refusedAt(() => sheet({ pitch_mm: 2 * MOST_pitch_mm }))).toEqual(['pitch_mm', 'value.number.max'])
  expect(refusedAt(() => sheet({}))).toEqual(['pitch_mm', 'value.any.required'])
})
