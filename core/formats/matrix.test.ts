import * as fc from 'fast-check'
import { columns, inverse, P3_PRIMARIES, product, SRGB_PRIMARIES, times, WIDE_PRIMARIES } from '.'

const part = fc.double({ min: -1, max: 1, noNaN: true })
/** What stands on the diagonal outweighs the rest, so that there is an inverse. */
const matrices = fc
  .tuple(fc.tuple(part, part, part), fc.tuple(part, part, part), fc.tuple(part, part, part))
  .map((rows) => rows.map((row, r) => row.map((value, c) => value + (r === c ? 3.5 : 0))))
const IDENTITY = [1, 0, 0, 0, 1, 0, 0, 0, 1]
const close = (a: readonly number[], b: readonly number[], digits = 6) => a.forEach((value, k) => expect(value).toBeCloseTo(b[k], digits))

test('a matrix by its inverse is nothing done, from both sides', () => {
  fc.assert(
    fc.property(matrices, (matrix) => {
      close(product(matrix, inverse(matrix)).flat(), IDENTITY)
      close(product(inverse(matrix), matrix).flat(), IDENTITY)
    }),
  )
})

test('two after each other are their product', () => {
  fc.assert(
    fc.property(matrices, matrices, fc.tuple(part, part, part), (a, b, colour) => {
      close(times(product(a, b), colour), times(a, times(b, colour)), 9)
    }),
  )
})

test.each([
  ['sRGB', SRGB_PRIMARIES],
  ['P3', P3_PRIMARIES],
  ['the wide space', WIDE_PRIMARIES],
])('white of %s is white of D50, and each primary is its column', (_, primaries) => {
  close(times(columns(primaries), [1, 1, 1]), [0.9642, 1, 0.8249], 3)
  close(times(columns(primaries), [0, 1, 0]), primaries[1], 9)
})

test('colours of sRGB lie within the wide space, its own green does not lie within sRGB', () => {
  const wideFromSrgb = product(inverse(columns(WIDE_PRIMARIES)), columns(SRGB_PRIMARIES))
  for (const colour of [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
    [1, 1, 0],
    [0, 1, 1],
  ])
    // prettier-ignore
    for (const light of times(wideFromSrgb, colour)) expect([light > -1e-3, light < 1 + 1e-3]).toEqual([true, true])
  expect(Math.min(...times(inverse(wideFromSrgb), [0, 1, 0]))).toBeLessThan(-0.1)
})
