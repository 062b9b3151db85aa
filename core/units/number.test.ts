import { parseNumber } from './number'

test.each([
  ['5.6', 5.6],
  ['5,6', 5.6],
  ['0,21', 0.21],
  [',5', 0.5],
  ['8.', 8],
  ['f/5.6', 5.6],
  ['F5,6', 5.6],
  ['2:1', 2],
  ['1:2', 0.5],
  ['1 : 2', 0.5],
  ['1/13', 1 / 13],
  ['−2', -2],
  [' 12 ', 12],
  ['∞', Infinity],
])('%j is %d', (text, value) => expect(parseNumber(text)).toBe(value))

test.each(['', 'life size', '1,234.5', '1.2.3', '1/0', '3 4', '5 mm', '2:', '1e3', '--2'])('%j is refused', (text) =>
  expect(parseNumber(text)).toBeNaN(),
)
