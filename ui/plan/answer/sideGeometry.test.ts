import { STARTER_KIT } from '@/core/kit'
import { NEW_SHEET, placementOf, planSheet, withGear, type PlanSheet } from '@/core/sheet'
import { sideGeometry } from './sideGeometry'

function drawn(change: Partial<PlanSheet> = {}) {
  const sheet = { ...withGear(NEW_SHEET, STARTER_KIT), ...change }
  const planned = planSheet(sheet, STARTER_KIT)
  return { sheet, planned, side: sideGeometry(planned, sheet) }
}
const RANGE: Partial<PlanSheet> = { kind: 'range', lens: 'Wide 24 mm', fNumber: 8, near_mm: 550, far_mm: null, from: 'sensor' }

describe('a subject of some depth', () => {
  test('stands where the plan puts it, as deep as it was said to be, and slices cover it from end to end', () => {
    const { sheet, planned, side } = drawn({ depth_mm: 9 })
    expect(side.subject.from).toBe(placementOf(planned, sheet).near_mm)
    expect(side.subject.to - side.subject.from).toBeCloseTo(9, 9)
    expect(side.slices).toHaveLength(planned.plan.frameCount)
    expect(side.slices[0].from).toBeLessThanOrEqual(side.subject.from)
    expect(side.slices.at(-1)!.to).toBeGreaterThanOrEqual(side.subject.to)
    // No gap between two slices.
    side.slices.slice(1).forEach(({ from }, k) => expect(from).toBeLessThan(side.slices[k].to))
  })

  test('body, lens and subject follow each other without touching, and all of it is in the drawing', () => {
    for (const change of [{}, { magnification: 0.2 }, { magnification: 1, depth_mm: 40 }, { mover: 'ring' as const }]) {
      const { side } = drawn(change)
      expect(side.body.to).toBe(side.lens.from)
      expect(side.lens.to).toBeGreaterThan(side.lens.from)
      expect(side.subject.from).toBeGreaterThan(side.lens.to)
      expect([side.pupil > side.lens.from, side.pupil < side.lens.to]).toEqual([true, true])
      expect(side.end).toBeGreaterThan(Math.max(side.subject.to, ...side.slices.map(({ to }) => to)))
      expect(side.endless).toBe(false)
    }
  })

  test('what the sensor shows of it grows as the magnification falls', () => {
    const heights = [1, 0.5, 0.25].map((magnification) => drawn({ magnification }).side.subject.height)
    expect(heights[1] / heights[0]).toBeCloseTo(2, 6)
    expect(heights[2] / heights[0]).toBeCloseTo(4, 6)
  })

  test('a rail moves the camera as far as the last frame lies, a ring leaves it where it is', () => {
    const { planned, side } = drawn({ mover: 'rail' })
    expect(side.travel).toBe(planned.plan.frames.at(-1)!.travel_mm)
    expect(side.travel).toBeGreaterThan(5)
    expect(drawn({ mover: 'ring' }).side.travel).toBe(0)
  })

  test('a background is drawn so far behind, and the drawing goes on to it', () => {
    const { side } = drawn({ background_mm: 150 })
    expect(side.targets).toEqual([{ name: 'background', at: side.subject.from + 150 }])
    expect(side.end).toBeGreaterThan(side.subject.from + 150)
    expect(drawn().side.targets).toEqual([])
  })
})

describe('a subject by distances', () => {
  test('that has no end is drawn to a little behind the last thing that counts', () => {
    const { side } = drawn(RANGE)
    expect(side.endless).toBe(true)
    expect(side.subject.from).toBe(550)
    expect(side.subject.to).toBe(side.end)
    expect(side.end).toBeGreaterThanOrEqual(3 * 550)
    expect(Number.isFinite(side.end)).toBe(true)
    for (const { to } of side.slices) expect(to).toBeLessThanOrEqual(side.end)
    expect(side.travel).toBe(0)
  })

  test('that ends is drawn whole', () => {
    const { side } = drawn({ ...RANGE, far_mm: 4000 })
    expect([side.subject.from, side.subject.to, side.endless]).toEqual([550, 4000, false])
    expect(side.end).toBeGreaterThan(4000)
  })

  test('is measured from the sensor, wherever the photographer measured from', () => {
    const [sensor, lens] = [drawn(RANGE), drawn({ ...RANGE, from: 'lens' })].map(({ side }) => side.subject.from)
    expect(sensor).toBe(550)
    // The lens stands some centimetres before it.
    expect(lens - 550).toBeGreaterThan(20)
    expect(lens - 550).toBeLessThan(30)
  })

  test('shows its targets at their distances, in the drawing', () => {
    const targets = [
      { name: 'trough', distance_mm: 650 },
      { name: 'gate', distance_mm: 9000 },
    ]
    const { side } = drawn({ ...RANGE, targets })
    expect(side.targets.map(({ name }) => name)).toEqual(['trough', 'gate'])
    side.targets.forEach(({ at }, k) => expect(at).toBeCloseTo(targets[k].distance_mm, 6))
    expect(side.end).toBeGreaterThan(9000)
  })
})
