import { planSeries, completePlanRequest } from '@/core/plan'
import { sheetOf } from '@/core/sheet'
import { check, checkKit, planOfSheet, planRequestSchema, planSheetSchema } from '@/schemas'
import { STARTER_KIT } from '@/core/kit'
import { DEMO_SHOOTS } from './scenario'

test('the starter kit is one that can be imported', () => expect(checkKit(JSON.parse(JSON.stringify(STARTER_KIT)))).toEqual(STARTER_KIT))

describe.each(DEMO_SHOOTS.map((shoot) => [shoot.title, shoot] as const))('%s', (_, { plan, sheet }) => {
  const stored = JSON.parse(JSON.stringify({ plan, sheet }))
  const frames = planSeries(completePlanRequest(check(planRequestSchema, stored.plan))).frames

  test('is planned as its fields say', () => {
    const answer = planOfSheet(check(planSheetSchema, stored.sheet), STARTER_KIT)
    expect(answer).toHaveProperty('plan')
    if ('plan' in answer) expect(answer.plan.frames).toEqual(frames)
  })

  test('comes back from its request alone with the same frames', () => {
    const answer = planOfSheet(sheetOf(completePlanRequest(stored.plan), STARTER_KIT), STARTER_KIT)
    expect(answer).toHaveProperty('plan')
    if (!('plan' in answer)) return
    expect(answer.plan.frameCount).toBe(frames.length)
    expect(answer.plan.frames.at(-1)!.near_mm).toBeCloseTo(frames.at(-1)!.near_mm, 6)
  })
})
