import { imageDistance_mm } from '../optics'
import { measuredBreathing, planSeries, type PlanRequest } from '.'
import { landscape, macro } from './testRequests'

const byRing: PlanRequest = { ...macro, mover: { kind: 'ring' } }
const { focalLength_mm, magnification } = macro.optics as { focalLength_mm: number; magnification: number }
const near_mm = focalLength_mm * (1 + 1 / magnification)
const places = [0, 2, 4, 6, 8, 10]

/** Frames of a lens that breathes so many times as a thin one, each scale a little wrong. */
const breathes = (times: number, error = 0) =>
  places.map((position_mm, k) => ({
    position_mm,
    scale:
      (imageDistance_mm(focalLength_mm, near_mm + position_mm) / imageDistance_mm(focalLength_mm, near_mm)) ** times * (1 + error * (k % 2 ? 1 : -1)),
  }))

test.each([1, 0.4, 1.7])('a lens that breathes %d times as a thin one is measured so, whichever frame is the reference', (times) => {
  const frames = breathes(times)
  const { scale } = frames[3]
  const found = measuredBreathing(
    frames.map((frame) => ({ ...frame, scale: frame.scale / scale })),
    byRing,
  )!
  expect(found.times).toBeCloseTo(times, 6)
  expect(found.scale_percent).toBeCloseTo(100 * (1 / frames.at(-1)!.scale - 1), 6)
})

test('small errors of registration hardly matter', () => expect(measuredBreathing(breathes(1, 2e-4), byRing)!.times).toBeCloseTo(1, 1))

test('nothing is said of a rail, of two frames, of a scale that stays, or of one that goes its own way', () => {
  expect(measuredBreathing(breathes(1), macro)).toBeUndefined()
  expect(measuredBreathing(breathes(1).slice(0, 2), byRing)).toBeUndefined()
  expect(measuredBreathing(breathes(0), byRing)).toBeUndefined()
  expect(measuredBreathing(breathes(-1), byRing)).toBeUndefined()
  expect(measuredBreathing(breathes(0.05, 0.05), byRing)).toBeUndefined()
})

test('of a range it is measured by the distances, and the plan reckons its edge with it', () => {
  const plan = planSeries(landscape)
  const { focalLength_mm: f } = landscape.optics as { focalLength_mm: number }
  const near = landscape.subject.kind === 'range' ? landscape.subject.near_mm : NaN
  const frames = plan.frames.map(({ focusDistance_mm }) => ({
    position_mm: focusDistance_mm! - near,
    scale: imageDistance_mm(f, focusDistance_mm!) ** 1.3,
  }))
  const found = measuredBreathing(frames, { ...landscape, mover: { kind: 'ring' } })!
  expect(found.times).toBeCloseTo(1.3, 6)
  const breathing = planSeries({ ...landscape, optics: { ...landscape.optics, breathing: found.times } as PlanRequest['optics'] })
  expect(1 - breathing.edgeLoss_percent / 100).toBeCloseTo((1 - plan.edgeLoss_percent / 100) ** 1.3, 9)
})
