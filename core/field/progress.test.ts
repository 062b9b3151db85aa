import * as fc from 'fast-check'
import { FocusLine, planSeries, type Plan, type PlanRequest } from '../plan'
import { landscape, macro } from '../plan/testRequests'
import { mergeLogs, type FieldEntry, type FieldEvent } from './log'
import { phasesOf } from './pace'
import { fieldProgress } from './progress'

const rail = planSeries(macro)
const range = planSeries(landscape)
const lineOf = (plan: Plan, far = false) => new FocusLine(plan, far ? [...plan.frames].reverse() : plan.frames)

let clock = 0
const log = (...events: FieldEvent[]): FieldEntry[] =>
  events.map((event) => ({ id: `e${++clock}`, at: new Date(1.8e12 + clock * 1000).toISOString(), ...event }) as FieldEntry)
const taken = (count: number): FieldEvent[] => Array.from({ length: count }, () => ({ kind: 'taken' }))

describe('a run that goes as planned', () => {
  test.each([
    ['near end first', lineOf(rail)],
    ['far end first', lineOf(rail, true)],
    ['a range', lineOf(range)],
  ])('%s: every frame is offered in order and the plan is complete at the end', (_, line) => {
    expect(fieldProgress(line, []).ahead).toEqual(line.order)
    const half = fieldProgress(line, log(...taken(2)))
    expect(half.ahead).toEqual(line.order.slice(2))
    expect(half.gaps).toEqual([])
    const all = fieldProgress(line, log(...taken(line.order.length)))
    expect(all).toMatchObject({ ahead: [], missed: [], gaps: [], complete: true })
  })

  test('only the newest run counts, and mistakes do not', () => {
    const line = lineOf(rail)
    const before = log(...taken(3), { kind: 'begin' }, { kind: 'taken' })
    const wrong = log({ kind: 'taken' })
    const entries = [...before, ...wrong, ...log({ kind: 'undone', entry: wrong[0].id })]
    expect(fieldProgress(line, entries).taken).toHaveLength(1)
  })

  test('tests, dividers and repeats do not move the plan on', () => {
    const line = lineOf(rail)
    const progress = fieldProgress(
      line,
      log({ kind: 'extra', what: 'test' }, { kind: 'extra', what: 'divider' }, { kind: 'taken' }, { kind: 'repeated' }),
    )
    expect(progress.taken.map(({ what }) => what)).toEqual(['test', 'divider', 'frame', 'repeat'])
    expect(progress.ahead).toEqual(line.order.slice(1))
    expect(progress.taken[3].frame).toBe(line.order[0])
  })
})

describe('a run that goes otherwise', () => {
  test('a frame left out leaves a gap with the frame that closes it', () => {
    const line = lineOf(rail)
    const { gaps, missed, complete } = fieldProgress(line, log({ kind: 'taken' }, { kind: 'missed' }, ...taken(line.order.length - 2)))
    expect(missed).toEqual([line.order[1]])
    expect(gaps).toHaveLength(1)
    expect(gaps[0].fill).toHaveLength(1)
    expect(gaps[0].fill[0].position_mm).toBeCloseTo(line.order[1].position_mm!, 9)
    expect(complete).toBe(false)
  })

  test('after a short step the rest is spaced evenly to the same end, no step longer than planned', () => {
    const line = lineOf(rail)
    const first = line.order[0].position_mm!
    const { ahead } = fieldProgress(line, log({ kind: 'taken' }, { kind: 'taken', position: first + 0.4 * line.stride }))
    const places = [first + 0.4 * line.stride, ...ahead.map((frame) => frame.position_mm!)]
    expect(places.at(-1)).toBeCloseTo(line.order.at(-1)!.position_mm!, 9)
    for (const [k, place] of places.slice(1).entries()) expect(place - places[k]).toBeLessThanOrEqual(line.stride * 1.02)
  })

  test('after a long step there is a gap, and going back closes it and goes on from there', () => {
    const line = lineOf(rail)
    const first = line.order[0].position_mm!
    const jumped = log({ kind: 'taken' }, { kind: 'taken', position: first + 2.6 * line.stride })
    const { gaps, ahead } = fieldProgress(line, jumped)
    expect(gaps[0].fill.map((frame) => frame.position_mm!)).toEqual([
      expect.closeTo(first + (2.6 / 3) * line.stride, 6),
      expect.closeTo(first + (5.2 / 3) * line.stride, 6),
    ])
    const back = [...jumped, ...log(...gaps[0].fill.flatMap((frame): FieldEvent[] => [{ kind: 'taken', position: frame.position_mm }]))]
    expect(fieldProgress(line, back).gaps).toEqual([])
    expect(ahead.at(-1)!.position_mm).toBeCloseTo(line.order.at(-1)!.position_mm!, 9)
  })

  test('running past the end is a spare frame, and nothing is left', () => {
    const line = lineOf(rail)
    const beyond = fieldProgress(line, log(...taken(line.order.length + 1)))
    expect(beyond.taken.at(-1)!.what).toBe('spare')
    expect(beyond.complete).toBe(true)
  })

  test('in a range the reading on the lens scale follows the distance really focused', () => {
    const line = lineOf(range)
    const [a, b] = line.order
    const middle = 2 / (1 / a.focusDistance_mm! + 1 / b.focusDistance_mm!)
    const { taken: frames } = fieldProgress(line, log({ kind: 'taken' }, { kind: 'taken', position: middle }))
    expect(frames[1].differs).toBe(true)
    expect(frames[1].frame!.focusDistance_mm).toBeCloseTo(middle, 6)
    expect(frames[1].frame!.scaleDistance_mm).toBeGreaterThan(a.scaleDistance_mm!)
    expect(frames[1].frame!.scaleDistance_mm).toBeLessThan(b.scaleDistance_mm!)
  })

  test('wherever the focus really is, what is taken and what lies ahead leave no gap beyond it', () => {
    const line = lineOf(rail)
    const first = line.order[0].position_mm!
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0.2, max: 1, noNaN: true }), { minLength: 1, maxLength: 12 }), (parts) => {
        let position = first
        const events = parts.map((part): FieldEvent => ({ kind: 'taken', position: (position += part * line.stride) }))
        const { ahead, gaps } = fieldProgress(line, log({ kind: 'taken' }, ...events))
        expect(gaps).toEqual([])
        const end = line.order.at(-1)!.position_mm!
        if (position < end - line.stride) expect(ahead.at(-1)!.position_mm).toBeCloseTo(end, 6)
        const places = [position, ...ahead.map((frame) => frame.position_mm!)]
        for (const [k, place] of places.slice(1).entries()) expect(place - places[k]).toBeLessThanOrEqual(line.stride * 1.03)
      }),
    )
  })
})

describe('two logs of one run', () => {
  test('are the same put together in any order, each entry once', () => {
    const [one, two, three] = [log(...taken(3)), log({ kind: 'paused' }), log(...taken(2))]
    const together = mergeLogs(one, two, three)
    expect(mergeLogs(three, one, [...two, ...one])).toEqual(together)
    expect(together).toHaveLength(6)
    expect(fieldProgress(lineOf(rail), together)).toMatchObject({ paused: true })
  })

  test('the preparation list keeps what was last said of a line', () => {
    const said = log(
      { kind: 'prepared', line: 'level', done: true },
      { kind: 'prepared', line: 'card', done: true },
      { kind: 'prepared', line: 'level', done: false },
    )
    expect(fieldProgress(lineOf(rail), said).prepared).toEqual(['card'])
  })
})

test('the phases of a frame: only what takes time is waited for, the filter only where there is one', () => {
  const timing: PlanRequest['timing'] = { settle_s: 3, delay_s: 2, exposure_s: 4, exposuresPerFrame: 4, interval_s: 0, recycling_s: 6, write_s: 1 }
  expect(phasesOf(timing, false)).toEqual([
    { kind: 'move' },
    { kind: 'wait', seconds: 5 },
    { kind: 'expose', seconds: 16 },
    { kind: 'recycle', seconds: 6 },
  ])
  expect(phasesOf({ ...timing, settle_s: 0, delay_s: 0, recycling_s: 0 }, true).map(({ kind }) => kind)).toEqual([
    'filterOff',
    'move',
    'filterOn',
    'expose',
  ])
})
