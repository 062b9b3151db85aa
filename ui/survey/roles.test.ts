import type { SurveyReport } from '@/core/survey'
import type { FrameDetail } from '@/schemas'
import { sortedFrames, surveyHeadline } from './roles'

const frame = (name: string, aside: boolean | null = null) => ({ name, aside }) as FrameDetail
const survey = {
  frames: [
    { file: 'b', role: 'use', reason: '', exposure_ev: 0 },
    { file: 'a', role: 'flawed', reason: 'it shook', exposure_ev: 0 },
    { file: 'c', role: 'use', reason: '', exposure_ev: 0 },
  ],
  order: 'mixed',
  messages: [],
} as unknown as SurveyReport

test('frames stand in focus order with their roles; a hand overrules the survey', () => {
  const sorted = sortedFrames({ frames: [frame('a'), frame('b', true), frame('c')], survey })
  expect(sorted.map(({ frame: { name }, role, used }) => [name, role, used])).toEqual([
    ['b', 'aside', false],
    ['a', 'flawed', false],
    ['c', 'use', true],
  ])
  expect(sortedFrames({ frames: [frame('a', false)], survey })[0]).toMatchObject({ role: 'use', reason: 'used again by hand', used: true })
})

test('without a survey all are used as they came', () =>
  expect(sortedFrames({ frames: [frame('b'), frame('a')], survey: null }).map(({ frame: { name }, used }) => [name, used])).toEqual([
    ['b', true],
    ['a', true],
  ]))

test('the headline says whether one may leave', () => {
  expect(surveyHeadline(survey)).toBe('Complete: both ends reached, no gap. 2 frames, shot in mixed order; 1 left out.')
  expect(surveyHeadline({ ...survey, messages: [{ code: 'gap', text: '', files: [] }] })).toContain('Before you leave')
})
