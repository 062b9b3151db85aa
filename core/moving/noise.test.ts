import { createPlane } from '../raster'
import { gaussian, randomStream } from '../simulate/random'
import { componentsOf } from './components'
import { noiseAt, noiseCurve } from './noise'

test('the noise of each brightness is told, and between them in between', () => {
  const random = randomStream(3)
  const luma = createPlane(240, 160)
  // Dark on the left, with three times the noise.
  luma.data.forEach((_, i) => (luma.data[i] = i % 240 < 120 ? 0.22 + 0.03 * gaussian(random) : 0.72 + 0.01 * gaussian(random)))
  const curve = noiseCurve([luma])
  expect(Math.sqrt(noiseAt(curve, 0.22)) / 0.03).toBeGreaterThan(0.75)
  expect(Math.sqrt(noiseAt(curve, 0.22)) / 0.03).toBeLessThan(1.15)
  expect(Math.sqrt(noiseAt(curve, 0.72)) / 0.01).toBeGreaterThan(0.75)
  expect(Math.sqrt(noiseAt(curve, 0.72)) / 0.01).toBeLessThan(1.15)
})

test('places connect where their values are alike, at corners only if asked', () => {
  const values = [0, -1, 1, -1, 0, 1]
  const [sides, corners] = [false, true].map((diagonal) => componentsOf(values, 3, 2, diagonal))
  expect(sides.count).toBe(3)
  expect(corners.count).toBe(2)
  expect([...corners.group]).toEqual([0, -1, 1, -1, 0, 1])
})
