import { STARTER_KIT as kit } from '../kit'
import { bodySeriesOf, NEW_SHEET, planSheet, runCardOf, withGear, type PlanSheet } from '.'

const filled = (change: Partial<PlanSheet> = {}): PlanSheet => ({ ...withGear(NEW_SHEET, kit), ...change })
const planned = (change: Partial<PlanSheet> = {}) => planSheet(filled(change), kit)
const garden: Partial<PlanSheet> = { kind: 'range', lens: 'Wide 24 mm', fNumber: 8, leadIn_slices: 0, runOut_slices: 0 }

describe('the run card', () => {
  test('of a macro on a rail', () => {
    const card = runCardOf(planned(), filled(), { title: 'Coil', subject: 'drawer C 17' })
    expect(card.headline).toMatch(/^\d+ frames/)
    const settings = card.settings.map(({ label, value }) => `${label}: ${value}`).join('\n')
    expect(settings).toContain('Mover: Bench rail, near end first')
    expect(settings).toContain('go back 0.2 mm beyond the first frame')
    expect(settings).toContain('Exposure: f/5.6, 1/8 s, all set by hand')
    expect(card.how).toEqual({ title: 'At every frame', steps: ['move', 'hands off, wait 2 s', 'press the shutter: 1/8 s', 'tick'] })
    expect(card.positions.rows).toHaveLength(planned().plan.frameCount)
  })

  test('of a landscape with a filter: off to focus, on to expose, every time; cautions of the place', () => {
    const sheet = filled({ ...garden, filter_stops: 6, surroundings: ['water'] })
    const card = runCardOf(planSheet(sheet, kit), sheet, { title: 'Garden', subject: '' }, 'inches')
    expect(card.how.steps.slice(0, 3)).toEqual(['filter off', 'focus', 'filter on'])
    expect(card.cautions.join()).toContain('tide')
    expect(card.checklist).toContain('Filter off to focus, on to expose, at every frame')
    expect(card.positions.rows[0].cells[0]).toMatch(/″$/)
  })

  test('of a landscape tells no magnification, and sets what the lens scale can show', () => {
    const card = runCardOf(planned(garden), filled(garden), { title: 'Garden', subject: '' })
    expect(card.settings.map(({ label }) => label)).not.toContain('Magnification')
    expect(card.positions.columns.slice(0, 2)).toEqual(['Focus, on the lens scale', 'from the sensor'])
    for (const { cells } of card.positions.rows)
      expect(cells[0]).toMatch(/^((a|two|three|halfway|quarters?|thirds?|of|the|way|from|beyond|\s)+ )?(0?\.?\d+ m|\d+ mm|∞)( to .+)?$/)
  })

  test('without a scale the lens is focused on something that far away', () => {
    const bare = { ...kit, lenses: kit.lenses.map(({ scaleMarks: _, ...lens }) => lens) }
    const card = runCardOf(planSheet(filled(garden), bare), filled(garden), { title: 'Garden', subject: '' })
    expect(card.positions.columns[0]).toBe('Focus on something from the sensor')
    expect(card.how.steps[0]).toContain('magnifier')
  })

  test('of the body’s own bracketing is one press: step, frames, where to focus', () => {
    const change: Partial<PlanSheet> = { mover: 'bracketing', magnification: 0.5, fNumber: 8, depth_mm: 12 }
    const { plan, step } = planned(change)
    const card = runCardOf(planned(change), filled(change), { title: 'Coil', subject: '' })
    expect(card.how.steps[0]).toBe(`Set step ${step!.step} and ${plan.frameCount} frames in the body’s bracketing.`)
    expect(card.how.steps[2]).toContain('press the shutter once')
    expect(card.positions.rows.map(({ cells }) => cells)).toEqual([[String(plan.frameCount), 'the near edge']])
    expect(card.checklist.join()).not.toContain('focus by hand')
  })

  test('a step that was never measured takes more frames than planned, and says when to stop', () => {
    const change: Partial<PlanSheet> = { mover: 'bracketing', lens: 'Macro 60 mm' }
    const body = bodySeriesOf(planned(change), filled(change))!
    expect(body.guessed).toBe(true)
    expect(body.parts[0].frames).toBeGreaterThan(planned(change).plan.frameCount)
    expect(body.how.join(' ')).toContain('stop when the far end is sharp')
  })

  test('a body that stops too early is chained: each part begins on the last focus of the one before', () => {
    const short = { ...kit, bodies: [{ ...kit.bodies[0], bracketMost: 10 }] }
    const sheet = filled({ mover: 'bracketing', magnification: 0.25, depth_mm: 200, fNumber: 8 })
    const { parts } = bodySeriesOf(planSheet(sheet, short), sheet)!
    expect(parts[0]).toMatchObject({ frames: 10, fresh: 10 })
    expect(parts.slice(1).every(({ frames, fresh }) => fresh === frames - 1)).toBe(true)
    expect(parts.reduce((sum, { fresh }) => sum + fresh, 0)).toBeGreaterThanOrEqual(planSheet(sheet, short).plan.frameCount)
  })
})

describe('what the hand takes', () => {
  const perFrame = (change: Partial<PlanSheet>) => planned(change).request.timing

  test('a dial by its turns, a ruler by looking, a motor by its speed, the body nothing', () => {
    const { plan } = planned()
    expect(perFrame({}).move_s).toBeCloseTo(2 + (1.5 * plan.stride_mm) / 0.5, 9)
    expect(perFrame({ rail: 'Field rail, ruler only', fNumber: 16, magnification: 0.4 }).move_s).toBe(8)
    expect(perFrame({ rail: 'Motor rail' }).move_s).toBeCloseTo(0.5 + planned({ rail: 'Motor rail' }).plan.stride_mm, 9)
    expect(perFrame({ mover: 'bracketing' }).move_s).toBe(0)
  })

  test('a filter is taken off and put on at each frame of a landscape only', () => {
    expect(perFrame({ ...garden, filter_stops: 6 }).filter_s).toBe(20)
    expect(perFrame({ ...garden, filter_stops: 6, filter_s: 12 }).filter_s).toBe(12)
    expect(perFrame({ filter_stops: 6 }).filter_s).toBe(0)
    const bare = planned({ ...garden, filter_stops: 0 }).plan
    const { plan, request } = planned({ ...garden, filter_stops: 6 })
    expect(plan.duration_s - bare.duration_s).toBeCloseTo(plan.frameCount * (20 + request.timing.exposure_s - 1 / 8), 6)
  })

  test('what is no time is refused at its field', () =>
    expect(() => planned({ move_s: -1 })).toThrow(expect.objectContaining({ field: 'move_s', code: 'plan.within' })))
})
