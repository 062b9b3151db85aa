import * as fc from 'fast-check'
import { FocusLine, NO_TIMING, planSeries, type Plan, type PlanRequest } from '../plan'
import { landscape, macro } from '../plan/testRequests'
import { mergeLogs, runsOf, type FieldEntry, type FieldEvent } from './log'
import { marksOf_s, phasesOf } from './pace'
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
    expect(all).toMatchObject({ ahead: [], gaps: [], complete: true })
  })

  test('only the newest run counts, and mistakes do not', () => {
    const line = lineOf(rail)
    const before = log(...taken(3), { kind: 'begin' }, { kind: 'taken' })
    const wrong = log({ kind: 'taken' })
    const entries = [...before, ...wrong, ...log({ kind: 'undone', entry: wrong[0].id })]
    expect(fieldProgress(line, runsOf(entries).current.entries).rows).toHaveLength(1)
  })

  test('tests, dividers and repeats do not move the plan on', () => {
    const line = lineOf(rail)
    const progress = fieldProgress(
      line,
      log({ kind: 'extra', what: 'test' }, { kind: 'extra', what: 'divider' }, { kind: 'taken' }, { kind: 'repeated' }),
    )
    expect(progress.rows.map(({ what }) => what)).toEqual(['test', 'divider', 'frame', 'repeat'])
    expect(progress.ahead).toEqual(line.order.slice(1))
    expect(progress.rows[3].frames).toEqual([line.order[0]])
  })
})

describe('a run that goes otherwise', () => {
  test('a frame left out leaves a gap with the frame that closes it', () => {
    const line = lineOf(rail)
    const { gaps, rows, complete } = fieldProgress(line, log({ kind: 'taken' }, { kind: 'missed' }, ...taken(line.order.length - 2)))
    expect(rows.filter(({ what }) => what === 'missed').map(({ number, frames }) => [number, frames[0]])).toEqual([[2, line.order[1]]])
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
      // The planned frames close it, under their own numbers.
      expect.closeTo(line.order[1].position_mm!, 6),
      expect.closeTo(line.order[2].position_mm!, 6),
    ])
    const back = [...jumped, ...log(...gaps[0].fill.flatMap((frame): FieldEvent[] => [{ kind: 'filled', position: frame.position_mm! }]))]
    expect(fieldProgress(line, back)).toMatchObject({ gaps: [], ahead })
    expect(ahead.at(-1)!.position_mm).toBeCloseTo(line.order.at(-1)!.position_mm!, 9)
  })

  test('where the focus went otherwise, a gap is closed by as few frames as it takes', () => {
    const line = lineOf(rail)
    const first = line.order[0].position_mm!
    const { gaps } = fieldProgress(
      line,
      log({ kind: 'taken' }, { kind: 'taken', position: first + 0.7 * line.stride }, { kind: 'missed' }, { kind: 'taken' }),
    )
    expect(gaps).toHaveLength(1)
    expect(gaps[0].fill).toHaveLength(1)
  })

  test('running past the end is a spare frame, and nothing is left', () => {
    const line = lineOf(rail)
    const beyond = fieldProgress(line, log(...taken(line.order.length + 1)))
    expect(beyond.rows.at(-1)!.what).toBe('spare')
    expect(beyond.complete).toBe(true)
  })

  test('in a range the reading on the lens scale follows the distance really focused', () => {
    const line = lineOf(range)
    const [a, b] = line.order
    const middle = 2 / (1 / a.focusDistance_mm! + 1 / b.focusDistance_mm!)
    const { rows } = fieldProgress(line, log({ kind: 'taken' }, { kind: 'taken', position: middle }))
    expect(rows[1].differs).toBe(true)
    expect(rows[1].frames[0].focusDistance_mm).toBeCloseTo(middle, 6)
    expect(rows[1].frames[0].scaleDistance_mm).toBeGreaterThan(a.scaleDistance_mm!)
    expect(rows[1].frames[0].scaleDistance_mm).toBeLessThan(b.scaleDistance_mm!)
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

describe('a record that stays right', () => {
  const line = lineOf(range)
  const places = (entries: FieldEntry[]) =>
    fieldProgress(line, runsOf(entries).current.entries).rows.map(({ what, number, frames }) => [what, number, frames[0]])

  test('a tick on a gap fills it and changes nothing else: no frame is asked for again, none is spare', () => {
    const entries = log(...taken(1), { kind: 'missed' }, ...taken(1))
    const { gaps, ahead } = fieldProgress(line, entries)
    const filled = fieldProgress(line, [...entries, ...log({ kind: 'filled', position: line.positionOf(gaps[0].fill[0]) })])
    expect(filled.ahead).toEqual(ahead)
    expect(filled.gaps).toEqual([])
    expect(filled.rows.map(({ what, number, frames }) => [what, number, frames[0].index])).toEqual([
      ['frame', 1, line.order[0].index],
      ['frame', 3, line.order[2].index],
      ['frame', 2, line.order[1].index],
    ])
  })

  test('a frame that was not taken after all leaves a gap where it was; the later ones stay where they were focused', () => {
    const entries = log(...taken(4))
    const after = [...entries, ...log({ kind: 'cleared', entry: entries[1].id })]
    expect(places(after)).toEqual([
      ['frame', 1, line.order[0]],
      ['missed', 2, line.order[1]],
      ['frame', 3, line.order[2]],
      ['frame', 4, line.order[3]],
    ])
    expect(fieldProgress(line, after).ahead).toEqual(line.order.slice(4))
    expect(fieldProgress(line, after).gaps[0].fill[0].focusDistance_mm).toBeCloseTo(line.order[1].focusDistance_mm!, 3)
  })

  test('one tick too many moves the later frames up', () => {
    const entries = log(...taken(4))
    expect(places([...entries, ...log({ kind: 'undone', entry: entries[1].id })])).toEqual([0, 1, 2].map((k) => ['frame', k + 1, line.order[k]]))
  })

  test('a frame left out keeps its number, and can be taken after all', () => {
    const skipped = log(...taken(1), { kind: 'missed' })
    expect(fieldProgress(line, skipped)).toMatchObject({ next: 3 })
    const [missed] = fieldProgress(line, skipped).rows.slice(-1)
    expect(fieldProgress(line, runsOf([...skipped, ...log({ kind: 'undone', entry: missed.id })]).current.entries)).toMatchObject({
      next: 2,
      ahead: line.order.slice(1),
    })
  })

  test('the body’s own bracketing takes a part of the plan at one press', () => {
    const whole = lineOf(rail)
    const part = fieldProgress(whole, log({ kind: 'bracketed', frames: 5 }))
    expect(part).toMatchObject({ next: 6, gaps: [], ahead: whole.order.slice(5) })
    expect(part.rows).toMatchObject([{ what: 'frame', number: 1, frames: whole.order.slice(0, 5) }])
    expect(fieldProgress(whole, log({ kind: 'bracketed', frames: 5 }, { kind: 'bracketed', frames: 9999 })).complete).toBe(true)
  })

  test('after a new run was begun by mistake the old one goes on, and both keep their frames', () => {
    const first = log(...taken(2))
    const begin = log({ kind: 'begin' })
    const second = log(...taken(1))
    const back = log({ kind: 'returned', run: '' }, ...taken(1))
    const { runs, current } = runsOf([...first, ...begin, ...second, ...back])
    expect(runs.map(({ id, entries }) => [id, entries.length])).toEqual([
      ['', 3],
      [begin[0].id, 1],
    ])
    expect(current).toBe(runs[0])
  })
})

describe('the phases of a frame', () => {
  const timing: PlanRequest['timing'] = { ...NO_TIMING, settle_s: 3, delay_s: 2, exposure_s: 4, exposuresPerFrame: 4, recycling_s: 6, write_s: 1 }
  const kinds = (change: object, how: { filter: boolean; byDevices: boolean }) => phasesOf({ ...timing, ...change }, how).map(({ kind }) => kind)

  test('the hand is told when to press, the count-down is the delay and the exposure, and it is asked how it went', () =>
    expect(phasesOf(timing, { filter: false, byDevices: false })).toEqual([
      { kind: 'move' },
      { kind: 'recycle', seconds: 6 },
      { kind: 'shutter' },
      { kind: 'expose', seconds: 18 },
      { kind: 'confirm' },
    ]))

  test('the shutter opens once all is at rest, and a frame lasts as long as the plan reckons: charging between its captures, too', () =>
    expect(marksOf_s({ ...timing, move_s: 1.5, interval_s: 20 })).toEqual({ release: 6.5, next: 6.5 + 16 + 24 + 1 }))

  test('devices press by themselves', () => expect(kinds({ recycling_s: 0 }, { filter: false, byDevices: true })).toEqual(['move', 'wait', 'expose']))

  test('an exposure shorter than a tap is not counted, a filter goes off to focus and on to expose', () =>
    expect(kinds({ settle_s: 0, delay_s: 0, recycling_s: 0, exposure_s: 0.1 }, { filter: true, byDevices: false })).toEqual([
      'filterOff',
      'move',
      'filterOn',
      'confirm',
    ]))
})
