import { planSeries, completePlanRequest } from '@/core/plan'
import { sheetOf } from '@/core/sheet'
import { check, checkKit, checkRecipe, planOfSheet, planRequestSchema, planSheetSchema } from '@/schemas'
import { STARTER_KIT } from '@/core/kit'
import { fittedRecipe } from '@/core/finish'
import { DEMO_RECIPES } from './recipes'
import { DEMO_SHOOTS } from './scenario'

test.each(DEMO_RECIPES.map(({ name, recipe }) => [name, recipe] as const))(
  '%s is a recipe that can be brought, and fits a picture of any size',
  (_, recipe) => {
    expect(checkRecipe(JSON.parse(JSON.stringify(recipe)))).toEqual(recipe)
    const { steps } = fittedRecipe(recipe, { width: 6000, height: 4000, pixel_mm: 0.006 })
    expect(steps.map(({ do: name }) => name)).toEqual(recipe.steps.map(({ do: name }) => name))
  },
)

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
