import * as fc from 'fast-check'
import { FocusLine, planSeries } from '.'
import { landscape, macro } from './testRequests'

const PLANS = { rail: planSeries(macro), range: planSeries(landscape) }
type Of = keyof typeof PLANS
const line = (of: Of, far = false) => new FocusLine(PLANS[of], far ? [...PLANS[of].frames].reverse() : PLANS[of].frames)
const CASES = (['rail', 'range'] as const).flatMap((of) => [false, true].map((far): [Of, boolean] => [of, far]))

test.each(CASES)('planned frames stand on the line in shooting order, one way only: %s, far end first %s', (of, far) => {
  const { places, order, direction } = line(of, far)
  expect(places).toHaveLength(order.length)
  places.slice(1).forEach((place, k) => expect((place - places[k]) * direction).toBeGreaterThan(0))
})

test('the way of a range is the other way round: far away is 0, in inverse distance', () => {
  expect([line('rail').direction, line('rail', true).direction]).toEqual([1, -1])
  expect([line('range').direction, line('range', true).direction]).toEqual([-1, 1])
})

test.each(CASES)('no step is longer than the stride: %s, far end first %s', (of, far) => {
  const { places, stride } = line(of, far)
  const steps = places.slice(1).map((place, k) => Math.abs(place - places[k]))
  expect(Math.max(...steps)).toBe(stride)
})

test.each(CASES)('at the place of a planned frame it is that frame: %s, far end first %s', (of, far) => {
  const all = line(of, far)
  for (const frame of all.order) {
    const found = all.frameAt(all.placeOf(all.positionOf(frame)))
    expect(found.index).toBe(frame.index)
    expect(all.positionOf(found)).toBeCloseTo(all.positionOf(frame), 6)
    expect(found.near_mm).toBeCloseTo(frame.near_mm, 6)
    if (Number.isFinite(frame.far_mm)) expect(found.far_mm).toBeCloseTo(frame.far_mm, 4)
  }
})

test('between two frames everything lies between theirs, and the number is of the nearer one', () => {
  fc.assert(
    fc.property(
      fc.constantFrom<Of>('rail', 'range'),
      fc.nat(),
      fc.double({ min: 0.02, max: 0.98, noNaN: true }).filter((t) => Math.abs(t - 0.5) > 0.02),
      (of, k, t) => {
        const all = line(of)
        const at = k % (all.places.length - 1)
        const [from, to] = [all.places[at], all.places[at + 1]]
        const found = all.frameAt(from + t * (to - from))
        const [a, b] = [all.order[at], all.order[at + 1]]
        expect(found.index).toBe((t < 0.5 ? a : b).index)
        for (const field of ['near_mm', 'far_mm'] as const) {
          const [low, high] = [Math.min(a[field], b[field]), Math.max(a[field], b[field])]
          expect([found[field] >= low - 1e-6, found[field] <= high + 1e-6]).toEqual([true, true])
        }
        const place = all.placeOf(all.positionOf(found))
        expect(Math.abs(place - (from + t * (to - from)))).toBeLessThan(1e-6 + 1e-6 * Math.abs(place))
      },
    ),
  )
})

test('beyond the ends the line goes straight on, and beyond infinity it stays there', () => {
  const rail = line('rail')
  const beyond = rail.frameAt(rail.places.at(-1)! + rail.stride)
  expect(rail.positionOf(beyond)).toBeCloseTo(rail.positionOf(rail.order.at(-1)!) + rail.stride, 6)
  const range = line('range')
  expect(range.frameAt(-1).far_mm).toBe(Infinity)
})

test('a single frame is its own line', () => {
  const alone = planSeries({ ...macro, subject: { kind: 'depth', depth_mm: 0.05 }, leadIn_slices: 0, runOut_slices: 0 })
  const all = new FocusLine(alone, [alone.frames[0]])
  expect(all.frameAt(5)).toBe(alone.frames[0])
  expect([all.direction, all.stride]).toEqual([1, expect.closeTo(alone.frames[0].far_mm - alone.frames[0].near_mm, 6)])
})
