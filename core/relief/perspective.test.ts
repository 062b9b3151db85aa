import { magnificationAt } from '../optics'
import { landscape, macro } from '../plan/testRequests'
import { viewAt, type CameraSetup } from '../simulate'
import { pixelsPer_mm } from '../simulate/camera'
import type { LensOptics } from '../plan'
import { pixelAt, pixelSizeOf } from '.'

const still = { scale: 1, rotation_rad: 0, dx_px: 0, dy_px: 0 }
const optics = macro.optics as LensOptics
const setup: CameraSetup = {
  sensorWidth_mm: macro.camera.sensorWidth_mm,
  width_px: 1200,
  height_px: 800,
  focalLength_mm: optics.focalLength_mm,
  fNumber: 8,
  magnification: optics.magnification!,
  mover: 'rail',
}
const thin = { ...macro, optics: { ...optics, pupilRatio: 1 } }

test.each([0, 4, 9])('on a rail a pixel is as large at every depth as the camera has it, framed at %d mm', (reference_mm) => {
  const size = pixelSizeOf({ ...thin, mover: { kind: 'rail', resolution_mm: 0.01 } }, 1200, reference_mm)!
  const view = viewAt(setup, reference_mm, reference_mm, still)
  for (const z of [-1, 0, 3, 12]) expect(pixelAt(size, z) * pixelsPer_mm(view, z)).toBeCloseTo(1, 6)
})

test.each([0, 4, 9])('with the ring too, framed at %d mm', (reference_mm) => {
  const size = pixelSizeOf({ ...thin, mover: { kind: 'ring' } }, 1200, reference_mm)!
  const middle = magnificationAt(optics.focalLength_mm, optics.focalLength_mm * (1 + 1 / optics.magnification!) + 5)
  const view = viewAt({ ...setup, mover: 'ring', magnification: middle }, reference_mm, 5, still)
  for (const z of [-1, 0, 3, 12]) expect(pixelAt(size, z) * pixelsPer_mm(view, z)).toBeCloseTo(1, 6)
})

test('by distances it goes with the distance, and nothing is said where no magnification is known', () => {
  const near = (landscape.subject as { near_mm: number }).near_mm
  const size = pixelSizeOf(landscape, 6000, 1000)!
  // The near end is `near` from the lens: as far behind it as that, things lie twice as far away.
  expect(pixelAt(size, near) / pixelAt(size, 0)).toBeCloseTo(2, 6)
  expect(pixelSizeOf({ ...macro, optics: { ...optics, magnification: undefined } }, 6000, 0)).toBeUndefined()
})
