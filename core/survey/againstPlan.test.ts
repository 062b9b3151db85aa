import { planSeries } from '../plan'
import { landscape, macro } from '../plan/testRequests'
import { againstPlan, type SurveyReport } from '.'

const plan = planSeries(macro)
const files = plan.frames.map(({ index }) => `f_${index}`)
const positions = new Map(plan.frames.map(({ position_mm }, k) => [files[k], position_mm!]))

function report(used: string[], change: Partial<SurveyReport> = {}): SurveyReport {
  return {
    frames: files.map((file) => ({ file, role: used.includes(file) ? 'use' : 'flawed', reason: '', exposure_ev: 0 })),
    order: 'near-to-far',
    directionBy: 'breathing',
    coverage: { nearEnd: 'reached', farEnd: 'reached', gaps: [] },
    exposure: { spread_ev: 0 },
    messages: [],
    ...change,
  }
}

test('a whole run has nothing to add', () => expect(againstPlan(report(files), positions, plan)).toEqual(report(files)))

test('frames missing at an end are counted, however the pictures look', () => {
  const { coverage, messages } = againstPlan(report(files.slice(1, -4)), positions, plan)
  expect(coverage).toMatchObject({ nearEnd: 'short', farEnd: 'short' })
  expect(messages.map(({ text }) => text)).toEqual([
    'The near end is not reached: take 1 more frame nearer than the first.',
    'The far end is not reached: take 4 more frames beyond the last.',
  ])
})

test('what the pictures showed is not said twice, and other messages stay', () => {
  const said = [
    { code: 'far-short' as const, text: 'The far end is not reached.', files: [] },
    { code: 'moved' as const, text: 'It jumps.', files: [] },
  ]
  expect(againstPlan(report(files.slice(0, -2), { messages: said }), positions, plan).messages.map(({ code }) => code)).toEqual([
    'far-short',
    'moved',
  ])
})

test('without positions the pictures decide', () => {
  expect(againstPlan(report(files.slice(3)), new Map(), plan)).toEqual(report(files.slice(3)))
})

test('a plan by distances counts its slices by distance, from the near edge on', () => {
  const range = planSeries(landscape)
  const names = range.frames.map(({ index }) => `f_${index}`)
  const focused = new Map(range.frames.map(({ focusDistance_mm }, k) => [names[k], focusDistance_mm! - 500]))
  const made = (used: string[]) =>
    againstPlan({ ...report([]), frames: used.map((file) => ({ file, role: 'use', reason: '', exposure_ev: 0 })) }, focused, range, 500)
  expect(made(names).messages).toEqual([])
  expect(made(names.slice(0, -1)).messages.map(({ code }) => code)).toEqual(['far-short'])
  expect(made(names.slice(2)).messages[0].text).toContain('take 2 more frames nearer')
})
