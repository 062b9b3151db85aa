import { completePlanRequest } from '@/core/plan'
import { storedSheetPlan } from '@/core/sheet'
import { STARTER_KIT as kit } from '@/core/kit'
import { NEW_SHEET, requestOf, withGear, type PlanSheet } from '@/core/sheet'
import { check, planOfSheet, planSheetSchema } from '.'

const sheet = withGear(NEW_SHEET, kit)
const checked = (value: object) => check<PlanSheet>(planSheetSchema, value)

test('a sheet survives being stored', () => {
  const garden: PlanSheet = { ...sheet, kind: 'range', far_mm: null, targets: [{ name: 'gate', distance_mm: null }], surroundings: ['water', 'road'] }
  expect(checked(JSON.parse(JSON.stringify(garden)))).toEqual(garden)
})

test('what an older sheet lacks comes from a new one', () => {
  const { railStart_mm: _start, surroundings: _around, ...older } = sheet
  expect(checked(older)).toEqual(sheet)
})

test.each([
  ['kind', 'sideways'],
  ['mover', 'cart'],
  ['reach', 'magic'],
  ['depth_mm', 'deep'],
  ['depth_mm', 1e12],
  ['diffraction', 'maybe'],
  ['targets', [{ name: 'x' }]],
  ['targets', [{ name: 'x', distance_mm: -1 }]],
  ['surroundings', ['lava']],
  ['body', 'x'.repeat(200)],
  ['colour', 'red'],
])('%s = %j is refused', (key, value) => expect(() => checked({ ...sheet, [key]: value })).toThrow())

describe('a plan of a sheet', () => {
  test('is checked against the limits of every request', () => {
    const answer = planOfSheet({ ...sheet, blur_pixels: 5000 }, kit)
    expect(answer).toMatchObject({ field: 'blur_pixels', code: 'value.number.max' })
  })

  test('a missing item of the kit is said at its field', () =>
    expect(planOfSheet({ ...sheet, light: 'Candle' }, kit)).toMatchObject({ field: 'light', code: 'plan.gearGone' }))

  test('an empty kit says what to add', () =>
    expect(planOfSheet({ ...NEW_SHEET }, { bodies: [], lenses: [], attachments: [], rails: [], lights: [], calibrations: [] })).toMatchObject({
      field: 'body',
      code: 'plan.noGear',
    }))
})

describe('a kept plan', () => {
  const request = completePlanRequest(requestOf(sheet, kit))

  test('is planned from its sheet, or from its request where it has none', () => {
    const [withSheet, without] = [storedSheetPlan({ sheet, planRequest: request }, kit), storedSheetPlan({ sheet: null, planRequest: request }, kit)]
    expect(withSheet).toHaveProperty('plan')
    expect(without).toHaveProperty('plan')
    if ('plan' in withSheet && 'plan' in without) expect(without.plan.frames).toEqual(withSheet.plan.frames)
  })

  test('whose kit is gone says so', () =>
    expect(storedSheetPlan({ sheet: { ...sheet, lens: 'Lent' }, planRequest: request }, kit)).toMatchObject({ field: 'lens' }))
})
