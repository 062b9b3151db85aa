import fc from 'fast-check'
import { inchesText, MM_PER_INCH, parseLength_mm } from '.'

test.each([
  [0, '0″'],
  [25.4, '1″'],
  [84.1375, '3 5/16″'],
  [12.7, '1/2″'],
  [-12.7, '−1/2″'],
  [0.1, '0″'],
  [25.4 * 67.5, '5′ 7 1/2″'],
  [25.4 * 60, '5′'],
  [25.4 * 144.25, '12′'],
  [Infinity, '∞'],
])('%d mm reads %s on a ruler', (length_mm, text) => expect(inchesText(length_mm)).toBe(text))

test.each([
  ['12', 12],
  ['12 mm', 12],
  ['1.5 m', 1500],
  ['1,5 cm', 15],
  ['3 5/16"', 84.1375],
  ['5/8 in', 15.875],
  ['2\' 4 1/2"', 28.5 * 25.4],
  ['.5 in', 12.7],
  ['6 ft', 1828.8],
])('%s is %d mm', (text, length_mm) => expect(parseLength_mm(text)).toBeCloseTo(length_mm, 9))

test.each(['', 'long', '12 mm 3"', '1 m 2 in', '3/0 in', '1/2/3', '12 parsecs'])('%j is no length', (text) =>
  expect(parseLength_mm(text)).toBeUndefined(),
)

test('a bare number is in the units that are switched on', () => {
  expect(parseLength_mm('2', 'in')).toBe(50.8)
  expect(parseLength_mm('2 1/2', 'in')).toBe(63.5)
})

test('what a ruler shows is read back to within a thirty-second of an inch', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 0, max: 3000, noNaN: true }),
      (length_mm) => Math.abs(parseLength_mm(inchesText(length_mm))! - length_mm) <= MM_PER_INCH / 32 + 1e-9,
    ),
  )
})
