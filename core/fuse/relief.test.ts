import { createPlane } from '../raster'
import { filledDepth, inMillimetres } from '.'

test('doubtful places take the depth of the sure ones around them, sure ones keep theirs', () => {
  const [depth, confidence] = [createPlane(64, 48), createPlane(64, 48)]
  for (let i = 0; i < depth.data.length; i++) {
    const inside = Math.hypot((i % 64) - 32, Math.floor(i / 64) - 24) < 9
    depth.data[i] = inside ? 9 : 3
    confidence.data[i] = inside ? 0.01 : 0.95
  }
  const filled = filledDepth(depth, confidence)
  expect(filled.data[24 * 64 + 32]).toBeGreaterThan(2.9)
  expect(filled.data[24 * 64 + 32]).toBeLessThan(3.6)
  expect(filled.data[2 * 64 + 2]).toBeCloseTo(3, 2)
})

test('places between frames become distances between theirs', () => {
  const depth = { width: 4, height: 1, data: Float32Array.from([0, 0.5, 2, 2.5]) }
  expect([...inMillimetres(depth, [1, 2, 4, 8]).data]).toEqual([1, 1.5, 4, 6])
})
