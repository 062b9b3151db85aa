import * as fc from 'fast-check'
import { FocusLine, planSeries, type PlannedFrame } from '../plan'
import { landscape, macro } from '../plan/testRequests'
import type { SurveyReport } from '../survey'
import { reshootList } from './reshoot'

const PLANS = { rail: planSeries(macro), range: planSeries(landscape) }
const fileOf = (k: number) => `frame_${String(k + 1).padStart(3, '0')}.jpg`

/** A run of a plan in an order, of which some frames are there, as a survey that found ends and gaps tells of it. */
function shot(
  of: keyof typeof PLANS,
  { far = false, there, gaps = [], ends = {} }: { far?: boolean; there: (k: number) => boolean; gaps?: [number, number, number][]; ends?: object },
) {
  const plan = PLANS[of]
  const line = new FocusLine(plan, far ? [...plan.frames].reverse() : plan.frames)
  const files = new Map(line.order.flatMap((frame, k) => (there(k) ? [[fileOf(k), frame] as const] : [])))
  const survey = {
    frames: [...files.keys()].map((file) => ({ file, role: 'use' })),
    coverage: {
      nearEnd: 'reached',
      farEnd: 'reached',
      gaps: gaps.map(([after, before, missing]) => ({ after: fileOf(after), before: fileOf(before), missing })),
      ...ends,
    },
  } as unknown as SurveyReport
  return { line, survey, files }
}
const places = (line: FocusLine, frames: PlannedFrame[]) => frames.map((frame) => line.placeOf(line.positionOf(frame)))

test('a complete run wants nothing again', () => {
  const { line, survey, files } = shot('rail', { there: () => true })
  expect(reshootList(line, survey, files)).toEqual([])
})

test.each(['rail', 'range'] as const)('a gap is filled with frames that lie evenly in it, in shooting order: %s', (of) => {
  for (const far of [false, true]) {
    const { line, survey, files } = shot(of, { far, there: (k) => k !== 1, gaps: [[0, 2, 1]] })
    const [gap, ...rest] = reshootList(line, survey, files)
    expect(rest).toEqual([])
    expect([gap.why, gap.between]).toEqual(['gap', [fileOf(0), fileOf(2)]])
    const [a, b] = [files.get(fileOf(0))!, files.get(fileOf(2))!].map((frame) => line.placeOf(line.positionOf(frame)))
    expect(places(line, gap.frames)[0]).toBeCloseTo((a + b) / 2, 6)
  }
})

test('a gap of several goes the way that the run went', () => {
  for (const far of [false, true]) {
    const { line, survey, files } = shot('rail', { far, there: (k) => k < 3 || k > 6, gaps: [[2, 7, 4]] })
    const [{ frames }] = reshootList(line, survey, files)
    expect(frames).toHaveLength(4)
    const at = places(line, frames).map((place) => place * line.direction)
    expect(at).toEqual([...at].sort((a, b) => a - b))
    // As planned: nothing moved, so that the frames that are missing are the planned ones.
    places(line, frames).forEach((place, k) => expect(place).toBeCloseTo(line.places[k + 3], 6))
  }
})

test('a gap beside a frame whose focus nobody knows is left to the survey’s words', () => {
  const { line, survey, files } = shot('rail', { there: (k) => k !== 4, gaps: [[3, 5, 1]] })
  files.delete(fileOf(5))
  expect(reshootList(line, survey, files)).toEqual([])
})

describe('ends that were not reached', () => {
  test.each(['rail', 'range'] as const)('want the planned frames beyond what is there, whichever end came first: %s', (of) => {
    const count = PLANS[of].frames.length
    for (const far of [false, true]) {
      // The first in shooting order is missing, which is the near end or the far one.
      const first = shot(of, { far, there: (k) => k > 0, ends: far ? { farEnd: 'short' } : { nearEnd: 'short' } })
      const [begin, ...none] = reshootList(first.line, first.survey, first.files)
      expect([begin.why, none]).toEqual([far ? 'far' : 'near', []])
      expect(begin.frames).toEqual([first.line.order[0]])
      const last = shot(of, { far, there: (k) => k < count - 1, ends: far ? { nearEnd: 'short' } : { farEnd: 'short' } })
      const [end] = reshootList(last.line, last.survey, last.files)
      expect([end.why, end.frames]).toEqual([far ? 'near' : 'far', [last.line.order[count - 1]]])
    }
  })

  test('are left alone where the plan goes no further, or where they were reached', () => {
    const all = shot('rail', { there: () => true, ends: { nearEnd: 'short', farEnd: 'short' } })
    expect(reshootList(all.line, all.survey, all.files)).toEqual([])
    const reached = shot('rail', { there: (k) => k > 3 })
    expect(reshootList(reached.line, reached.survey, reached.files)).toEqual([])
  })

  test('frames that are left out do not count as there', () => {
    const { line, survey, files } = shot('rail', { there: () => true, ends: { nearEnd: 'short' } })
    survey.frames[0].role = 'dark' as never
    expect(reshootList(line, survey, files)).toEqual([{ why: 'near', frames: [line.order[0]] }])
  })
})

test('whatever frames are missing inside, every place that is asked for lies within the plan', () => {
  const count = PLANS.rail.frames.length
  fc.assert(
    fc.property(fc.integer({ min: 0, max: count - 3 }), fc.integer({ min: 2, max: 6 }), fc.boolean(), (after, width, far) => {
      const before = Math.min(count - 1, after + width)
      const { line, survey, files } = shot('rail', { far, there: (k) => k <= after || k >= before, gaps: [[after, before, before - after - 1]] })
      const [gap] = reshootList(line, survey, files)
      const [low, high] = [Math.min(...line.places), Math.max(...line.places)]
      for (const place of places(line, gap.frames)) expect([place >= low, place <= high]).toEqual([true, true])
    }),
  )
})
