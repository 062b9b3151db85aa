import { apply, IDENTITY } from '../raster'
import { WIDEST } from '../raster/kernels'
import { blur_px, pixelsPer_mm, viewAt, type CameraSetup } from './camera'
import { placing, radiusAt, scaleAt } from './placing'

const camera: CameraSetup = { sensorWidth_mm: 36, width_px: 600, height_px: 400, focalLength_mm: 100, fNumber: 4, magnification: 0.7, mover: 'rail' }
const sampledFrom = viewAt({ ...camera, mover: 'ring' }, 3, 3, IDENTITY)
const sampled = { view: sampledFrom, density: 1.5, layers: [], extent: { left: 0, right: 0, top: 0, bottom: 0 } }
const inverseOf = (z: number) => 1 / (z - sampledFrom.pupilZ)

describe.each(['rail', 'ring'] as const)('a view by %s of what was sampled from another', (mover) => {
  const view = viewAt({ ...camera, mover }, 8, 3, IDENTITY)
  const place = placing(sampled, camera, view, [0, 0])

  test.each([-6, 0, 3, 8, 25])('has the scale at z = %d mm that both cameras say', (z) => {
    const samplesPer_mm = pixelsPer_mm(sampledFrom, z) * sampled.density
    expect(scaleAt(place, inverseOf(z))).toBeCloseTo(samplesPer_mm / pixelsPer_mm(view, z), 9)
  })

  test.each([-6, 0, 3, 8, 25])('blurs z = %d mm as the thin lens does', (z) => {
    expect(radiusAt(place, inverseOf(z))).toBeCloseTo(Math.min(WIDEST, blur_px(view, z) / 2), 6)
  })
})

test('no blur is drawn wider than the widest', () => {
  const view = viewAt({ ...camera, fNumber: 1.4 }, 0, 0, IDENTITY)
  expect(radiusAt(placing(sampled, camera, view, [0, 0]), inverseOf(5000))).toBe(WIDEST)
})

test('a camera that was knocked sees a place where the motion puts it, and wind carries a layer on', () => {
  const jitter = { scale: 1.02, rotation_rad: 0.03, dx_px: 7, dy_px: -4 }
  const view = viewAt(camera, 3, 3, jitter)
  const place = placing(sampled, camera, view, [0, 0])
  for (const [x, y] of [
    [0, 0],
    [123, 321],
    [599, 10],
  ]) {
    const [u, v] = place.origin(x, y)
    // Where the place would be without the knock, moved by it, is the pixel.
    const [px, py] = apply(jitter, u, v)
    expect(px + 299.5).toBeCloseTo(x, 9)
    expect(py + 199.5).toBeCloseTo(y, 9)
    const [right, down] = [place.origin(x + 1, y), place.origin(x, y + 1)]
    expect([right[0] - u, right[1] - v]).toEqual(place.stepX.map((step) => expect.closeTo(step, 9)))
    expect([down[0] - u, down[1] - v]).toEqual(place.stepY.map((step) => expect.closeTo(step, 9)))
    const carried = placing(sampled, camera, view, [2, -1]).origin(x, y)
    expect([u - carried[0], v - carried[1]]).toEqual([expect.closeTo(2, 9), expect.closeTo(-1, 9)])
  }
})
