import { STARTER_KIT as kit } from '@/core/kit'
import { fromSensor_mm, scaleDistance_mm } from '@/core/optics'
import { FocusLine, type Plan } from '@/core/plan'
import { landscapeSheet, NEW_SHEET, planSheet, withGear, type PlanSheet, type SheetPlan } from '@/core/sheet'
import { readingOf } from './reading'

const planned = (change: Partial<PlanSheet>): SheetPlan => planSheet({ ...withGear(NEW_SHEET, kit), ...change }, kit)
const lineOf = (plan: Plan, far = false) => new FocusLine(plan, far ? [...plan.frames].reverse() : plan.frames)

describe('what is asked where the focus is not where the plan wanted it', () => {
  test('of a landscape: the lens scale, which counts from the sensor', () => {
    const sheetPlan = planned({ ...landscapeSheet(kit), kind: 'range' })
    const { label, toPosition } = readingOf(sheetPlan, lineOf(sheetPlan.plan))
    expect(label).toBe('What the lens scale shows, in m')
    const { optics } = sheetPlan.request
    if (optics.kind !== 'lens') throw new Error('a landscape is taken with a lens')
    // Half a metre on the scale is nearer than that to the lens; and what is planned comes back from its own scale value.
    expect(toPosition(0.5)).toBe(fromSensor_mm(500, optics.focalLength_mm))
    expect(toPosition(0.5)).toBeLessThan(500)
    for (const { focusDistance_mm: focus_mm = Infinity } of sheetPlan.plan.frames)
      if (Number.isFinite(focus_mm)) expect(toPosition(scaleDistance_mm(focus_mm, optics.focalLength_mm) / 1000)).toBeCloseTo(focus_mm, 3)
    expect(sheetPlan.plan.frames.filter(({ focusDistance_mm }) => Number.isFinite(focusDistance_mm)).length).toBeGreaterThan(2)
    expect(toPosition(Infinity)).toBe(Infinity)
  })

  test.each([false, true])('of a rail: how far it has gone from the first frame; far end first: %s', (far) => {
    const sheetPlan = planned({ depth_mm: 9, mover: 'rail' })
    const line = lineOf(sheetPlan.plan, far)
    const { label, toPosition } = readingOf(sheetPlan, line)
    expect(label).toBe('Where the rail is, in mm from the first frame')
    const [first, second] = line.order.map((frame) => line.positionOf(frame))
    expect(toPosition(0)).toBe(first)
    expect(toPosition(second - first)).toBeCloseTo(second, 9)
  })

  test('of a lens ring close up: what is in focus', () => {
    const sheetPlan = planned({ depth_mm: 9, mover: 'ring' })
    const { label, toPosition } = readingOf(sheetPlan, lineOf(sheetPlan.plan))
    expect([label, toPosition(3.25)]).toEqual(['What is in focus, in mm from the near edge', 3.25])
  })
})
