import { apertureText, dateText, durationText, exposureText, lengthText, momentText, placeText, significant, storageText } from '.'

test.each([
  [0.01234, '12.3 µm'],
  [0.62, '0.62 mm'],
  [12.5, '12.5 mm'],
  [2424, '2.42 m'],
  [Infinity, '∞'],
  [0, '0 mm'],
])('length %d', (length_mm, text) => expect(lengthText(length_mm)).toBe(text))

test.each([
  [0.01234, '12.3 µm'],
  [0.62, '0.024″'],
  [84.1375, '3 5/16″'],
  [2438.4, '8′'],
  [Infinity, '∞'],
])('length %d in inches', (length_mm, text) => expect(lengthText(length_mm, 'inches')).toBe(text))

test('places keep the decimals that tell neighbours apart', () => {
  expect(placeText(-0.274)).toBe('−0.27 mm')
  expect(placeText(-0.001)).toBe('0.00 mm')
  expect(placeText(12.4, 'inches')).toBe('0.488″')
  expect(placeText(Infinity)).toBe('∞')
})

test.each([
  [48, '48 s'],
  [190, '3 min 10 s'],
  [180, '3 min'],
  [3900, '1 h 5 min'],
])('duration %d', (duration_s, text) => expect(durationText(duration_s)).toBe(text))

test.each([
  [0.125, '1/8 s'],
  [1 / 13, '1/13 s'],
  [0.4, '0.4 s'],
  [4.9, '4.9 s'],
  [64, 'bulb, 64 s'],
  [1 / 250, '1/250 s'],
])('exposure %d', (exposure_s, text) => expect(exposureText(exposure_s)).toBe(text))

test('storage, apertures and dates', () => {
  expect(storageText(945)).toBe('945 MB')
  expect(storageText(2560)).toBe('2.56 GB')
  expect(apertureText(5.6)).toBe('f/5.6')
  expect(apertureText(16)).toBe('f/16')
  expect(dateText('2026-05-11T09:30:00Z')).toBe('11 May 2026')
  expect(momentText('2026-05-11T09:30:00Z', 'UTC')).toBe('11 May, 09:30')
})

test('significant figures without exponents', () => {
  expect(significant(0.000012345, 3)).toBe('0.0000123')
  expect(significant(123456, 3)).toBe('123456')
  expect(significant(0, 3)).toBe('0')
})
