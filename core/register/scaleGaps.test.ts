import { IDENTITY } from '../raster'
import type { Link } from './link'
import { scaleGaps } from './scaleGaps'

const link = (from: number, to: number, scale: number): Link => ({
  from,
  to,
  pair: { motion: { ...IDENTITY, scale }, gain: 1, residual: 0, correlation: 1 },
})

test('the gap is by how much a scale measured over two frames differs from both steps, and unknown where one of them was not measured', () => {
  const links = [link(0, 1, 1.01), link(1, 2, 1.02), link(0, 2, 1.01 * 1.02 * 1.001), link(2, 3, 1.01), link(1, 3, 1.02 * 1.01), link(3, 4, 1)]
  const gaps = scaleGaps(links, 5)
  expect(gaps.slice(0, 2)).toEqual([undefined, undefined])
  expect(gaps[2]).toBeCloseTo(Math.log(1.001), 9)
  expect(gaps[3]).toBeCloseTo(0, 9)
  expect(gaps[4]).toBeUndefined()
})
