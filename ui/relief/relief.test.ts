import { sideText } from './LightPad'
import { about, csvOf, measuredText } from './words'

test('a length has no more digits than its doubt allows, in one unit', () => {
  expect(about({ value: 13.9812, uncertain: 0.0712 }, 'metric')).toBe('13.98 ± 0.07 mm')
  expect(about({ value: -2.18, uncertain: 2.04 }, 'metric')).toBe('2 ± 2 mm')
  expect(about({ value: 25.4, uncertain: 0.254 }, 'inches')).toBe('1.00 ± 0.01 in')
  expect(about({ value: 3200, uncertain: 120 }, 'metric')).toBe('3.2 ± 0.1 m')
})

const place = (depth: number, confidence = 1) => ({ depth, uncertain: 0.25, confidence })
const measured = {
  from: place(3),
  to: place(1),
  across_px: 400,
  across_mm: { value: 4, uncertain: 0.02 },
  height: { value: 2, uncertain: 0.35 },
  straight_mm: { value: 4.47, uncertain: 0.16 },
}

test('what was measured is said in sentences: which end is nearer, what cannot be told, where the depth is a guess', () => {
  expect(measuredText(measured, 'metric')).toEqual([
    'A to B: 4.00 ± 0.02 mm across.',
    'B is nearer to the camera by 2.0 ± 0.3 mm.',
    'Straight through space: 4.5 ± 0.2 mm.',
  ])
  expect(measuredText({ ...measured, height: { value: 0.1, uncertain: 0.35 } }, 'metric')[1]).toMatch(/^Equally near/)
  expect(measuredText({ ...measured, to: place(1, 0.1) }, 'metric').at(-1)).toMatch(/little detail at B/)
  const unknown = measuredText({ ...measured, across_mm: undefined, straight_mm: undefined }, 'metric')
  expect(unknown.join(' ')).toContain('400 px across')
  expect(unknown.join(' ')).not.toMatch(/[0-9] mm/)
})

test('the side of the light is told in words', () => {
  expect([0, 90, 135, -90, 360].map(sideText)).toEqual(['the right', 'above', 'the upper left', 'below', 'the right'])
})

test('a profile is a table that says its units', () => {
  expect(csvOf([{ along: 0, height: 1.23456789, low: 1, high: 1.5 }], 'mm', 'mm')).toBe('along_mm,height_mm,low_mm,high_mm\n0,1.23457,1,1.5\n')
})
