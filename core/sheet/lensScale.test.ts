import { marksOf_mm, scaleReading } from './lensScale'

const marks = marksOf_mm('0.25 0.3 0,5 1 ∞')

test('marks are read in metres, with a comma or a point, to infinity', () => expect(marks).toEqual([250, 300, 500, 1000, Infinity]))

test.each([
  [250, '250 mm'],
  [1000, '1 m'],
  // A ring turns evenly in one over the distance: between 1 m and infinity 2 m lies halfway, 4 m three quarters.
  [2000, 'halfway from 1 m to ∞'],
  [4000, 'three quarters of the way from 1 m to ∞'],
  [3000, 'two thirds of the way from 1 m to ∞'],
  [40_000, '∞'],
  [Infinity, '∞'],
  [200, 'nearer than 250 mm'],
])('%d mm is set by %s', (distance_mm, text) => expect(scaleReading(distance_mm, marks)).toBe(text))

test('beyond the last mark of a scale without infinity', () => expect(scaleReading(9000, marksOf_mm('0.5 1 3'))).toBe('beyond 3 m'))
