import { gaussian, randomStream } from '../simulate'
import { pupilDistance_mm } from './framing'
import { measuredPupil, playOf, type PlanRequest } from '.'
import { macro } from './testRequests'

const request = (pupilRatio = 1, change: object = {}) =>
  ({ ...macro, mover: { kind: 'rail', resolution_mm: 0.01 }, optics: { ...macro.optics, pupilRatio, magnification: 1, ...change } }) as PlanRequest
/** Frames on a rail, with so much noise on their scale. */
function frames(ratio: number, magnification = 1, noise = 0) {
  const random = randomStream(8)
  const { optics } = request(ratio, { magnification })
  const distance = pupilDistance_mm(optics as never, magnification)
  return Array.from({ length: 14 }, (_, k) => ({ position_mm: 0.5 * k, scale: Math.exp((0.5 * k) / distance) * (1 + noise * gaussian(random)) }))
}

test.each([0.7, 1, 1.6])('a pupil ratio of %p is read off a run whose places on the rail are known', (ratio) => {
  // Whatever the kit says of it.
  expect(measuredPupil(frames(ratio), request(1))!.ratio).toBeCloseTo(ratio, 6)
  expect(measuredPupil(frames(ratio, 0.5), request(1, { magnification: 0.5 }))!.ratio).toBeCloseTo(ratio, 6)
})

test('noise shows in what it may be off by, and where that is too much nothing is told', () => {
  const { ratio, spread } = measuredPupil(frames(1.2, 1, 5e-5), request())!
  expect(Math.abs(ratio - 1.2)).toBeLessThan(3 * spread)
  expect(spread).toBeGreaterThan(0.001)
  expect(measuredPupil(frames(1.2, 1, 6e-3), request())).toBeUndefined()
})

test('by a ring, behind an attachment or from few frames nothing is told', () => {
  expect(measuredPupil(frames(1), { ...request(), mover: { kind: 'ring' } })).toBeUndefined()
  expect(measuredPupil(frames(1), request(1, { attachment: true }))).toBeUndefined()
  expect(measuredPupil(frames(1).slice(0, 5), request())).toBeUndefined()
})

test('a first step that falls short tells the play of the screw; one that does not stand out tells none', () => {
  const places = (steps: number[]) => steps.reduce((all, step) => [...all, all.at(-1)! + step], [0])
  expect(playOf(places([0.42, 0.5, 0.51, 0.49, 0.5, 0.505, 0.495]))).toBeCloseTo(0.08, 6)
  expect(playOf(places([-0.42, -0.5, -0.51, -0.49, -0.5, -0.505, -0.495]))).toBeCloseTo(0.08, 6)
  expect(playOf(places([0.48, 0.5, 0.52, 0.47, 0.5, 0.53, 0.49]))).toBeUndefined()
  expect(playOf(places([0.6, 0.5, 0.51, 0.49, 0.5, 0.505, 0.495]))).toBeUndefined()
  expect(playOf(places([0.3, 0.5, 0.5]))).toBeUndefined()
})
