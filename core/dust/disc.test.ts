import { createPlane } from '../raster'
import { fitted } from './disc'

test('a disc is fitted to a dark spot by as much as it stands out', () => {
  const plane = createPlane(60, 56)
  for (let i = 0; i < plane.data.length; i++) plane.data[i] = -0.5 / (1 + Math.exp(3 * (Math.hypot((i % 60) - 30, Math.floor(i / 60) - 27) - 6)))
  const { radius_px, dark } = fitted(plane, 31, 27, 12)
  expect(Math.abs(radius_px - 6)).toBeLessThan(2)
  expect(dark).toBeGreaterThan(0.4 * Math.sqrt(radius_px))
  expect(fitted(createPlane(60, 56), 31, 27, 12).dark).toBe(0)
})
