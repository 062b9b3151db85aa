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
  expect(messages.map(({ code, missing }) => [code, missing])).toEqual([
    ['near-short', 1],
    ['far-short', 4],
  ])
})

test('frames that were taken at the ends and add nothing are not asked for again', () => {
  const idle = report(files.slice(5, -6))
  idle.frames = idle.frames.map((frame) => (frame.role === 'flawed' ? { ...frame, role: 'idle', reasonCode: 'beyond' } : frame))
  const { messages, coverage } = againstPlan(idle, positions, plan)
  expect(messages).toEqual([])
  expect(coverage).toMatchObject({ nearEnd: 'reached', farEnd: 'reached' })
})

test('a gap where a frame was left out names it with its place, not a frame that was never taken', () => {
  const dark = report(files.filter((_, k) => k !== 6))
  const { messages } = againstPlan(dark, positions, plan)
  expect(messages).toMatchObject([{ code: 'gap', files: ['f_6', 'f_8', 'f_7'], missing: 1 }])
  expect(messages[0].text).toContain(`at ${positions.get('f_7')!.toFixed(2)} mm`)
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
  expect(made(names.slice(2)).messages[0]).toMatchObject({ code: 'near-short', missing: 2 })
})

test('of a range the focus alone tells whether an end is reached, of a depth the pictures tell as well', () => {
  const seen = report(files, {
    coverage: { nearEnd: 'short', farEnd: 'reached', gaps: [] },
    messages: [{ code: 'near-short', text: 'The near end is not reached.', files: [] }],
  })
  expect(againstPlan(seen, positions, plan).coverage.nearEnd).toBe('short')
  const range = planSeries(landscape)
  const names = range.frames.map(({ index }) => `f_${index}`)
  const focused = new Map(range.frames.map(({ focusDistance_mm }, k) => [names[k], focusDistance_mm! - 500]))
  const swaying = { ...seen, frames: names.map((file) => ({ file, role: 'use' as const, reason: '', exposure_ev: 0 })) }
  const { coverage, messages } = againstPlan(swaying, focused, range, 500)
  expect(coverage.nearEnd).toBe('reached')
  expect(messages).toEqual([])
})

test('a gap that the pictures do not show is found by where the focus was', () => {
  const { coverage, messages } = againstPlan(report(files.filter((_, k) => k !== 5 && k !== 6)), positions, plan)
  expect(coverage.gaps).toEqual([{ after: files[4], before: files[7], missing: 2 }])
  expect(messages.map(({ code }) => code)).toEqual(['gap'])
})

test('a gap is said once, by the pictures or by the plan', () => {
  const seen = report(files.filter((_, k) => k !== 5))
  seen.coverage.gaps.push({ after: files[4], before: files[6], missing: 1 })
  seen.messages.push({ code: 'gap', text: 'A gap.', files: [files[4], files[6]] })
  expect(againstPlan(seen, positions, plan).messages).toHaveLength(1)
})

test('a frame that looks like its neighbour is used where the focus did move, and left out where it did not', () => {
  const alike = (file: string) => ({ file, role: 'idle' as const, reasonCode: 'unmoved' as const, reason: 'x', exposure_ev: 0 })
  const seen = report(files)
  seen.frames[3] = alike(files[3])
  expect(againstPlan(seen, positions, plan).frames[3].role).toBe('use')
  const stuck = new Map([...positions, [files[3], positions.get(files[2])!]])
  expect(againstPlan(seen, stuck, plan).frames[3].role).toBe('idle')
})

test('a gap that the pictures seem to show is dropped where the focus left none', () => {
  const seen = report(files)
  seen.coverage.gaps.push({ after: files[4], before: files[5], missing: 2 })
  seen.messages.push({ code: 'gap', text: 'A gap.', files: [files[4], files[5]] })
  const { coverage, messages } = againstPlan(seen, positions, plan)
  expect(coverage.gaps).toEqual([])
  expect(messages).toEqual([])
})

test('frames beyond the planned depth are left out where the pictures see the subject end, and kept where it goes on', () => {
  const last = plan.frames.at(-1)!.position_mm!
  const names = [...files, 'f_x', 'f_y']
  const focused = new Map([...positions, ['f_x', last + plan.stride_mm], ['f_y', last + 2 * plan.stride_mm]])
  const roles = (farEnd: 'reached' | 'short') =>
    againstPlan(
      {
        ...report([]),
        coverage: { nearEnd: 'reached', farEnd, gaps: [] },
        frames: names.map((file) => ({ file, role: 'use' as const, reason: '', exposure_ev: 0 })),
      },
      focused,
      plan,
    ).frames.map(({ role }) => role)
  expect(roles('reached').slice(-3)).toEqual(['use', 'use', 'idle'])
  expect(roles('short').slice(-3)).toEqual(['use', 'use', 'use'])
})

test('frames focused beyond the chosen ends of a range are left out, with the reason; one just beside them is kept', () => {
  const range = planSeries(landscape)
  const distances = range.frames.map(({ focusDistance_mm }) => focusDistance_mm!)
  const stride = 1 / distances[0] - 1 / distances[1]
  const made = (extra: number) => {
    const focused = [1 / (1 / distances[0] + extra * stride), ...distances]
    const names = focused.map((_, k) => `f_${k}`)
    const seen = { ...report([]), frames: names.map((file) => ({ file, role: 'use' as const, reason: '', exposure_ev: 0 })) }
    return againstPlan(seen, new Map(names.map((file, k) => [file, focused[k] - 500])), range, 500).frames.map(({ role, reasonCode }) => [
      role,
      reasonCode,
    ])
  }
  expect(made(2)[0]).toEqual(['idle', 'beyond-plan'])
  expect(made(1)[0]).toEqual(['use', undefined])
  expect(
    made(2)
      .slice(1)
      .every(([role]) => role === 'use'),
  ).toBe(true)
})
