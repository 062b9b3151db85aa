import type { LogEntry } from '@/core/logbook'
import { findingsOf, gearText } from './findings'
import { choices, seriesOf } from './series'

const entry: LogEntry = {
  ...{ run: 1, shoot: 1, number: 1, title: 'Seed', at: '2026-05-11T09:30:00.000Z', source: 'imported' },
  ...{ body: 'Body A', lens: 'Macro 100 mm', fNumber: 5.6, magnification: 0.5, mover: 'rail' },
  planned: { frames: 18, stride_mm: 0.5, overlap: 0.3 },
  ...{ frames: 18, used: 18, frame_s: 4, exposure_ev: 0.04, flawed: 0, idle: 0, gaps: 0, complete: true, moved_percent: 0 },
  stride: { mean_mm: 0.5, spread_mm: 0.001, spreadKnown: true, steps: 17, by: 'position' },
  depthOfField: null,
  ...{ needed: null, renders: 1, render: 3, style: 'auto', delivered: 0, bytes: 12e6, stars: 0, note: '', tags: [] },
}
const said = (change: Partial<LogEntry>) => findingsOf({ ...entry, ...change }, 'metric').join(' ')

test('a run that went as planned is told in short', () => {
  expect(said({})).toBe('18 frames, as planned, 4 s each. 0.5 mm apart, evenly. Complete. One render, auto. 12 MB.')
  expect(gearText(entry)).toBe('Body A, Macro 100 mm, f/5.6 at 1 : 2, by the rail')
})

test.each<[Partial<LogEntry>, string]>([
  [{ frames: 22, used: 19 }, '22 frames, 18 planned, 3 left out, 4 s each.'],
  [{ planned: null, frames: 1, used: 1, frame_s: null, stride: null }, '1 frame.'],
  [
    { stride: { mean_mm: 0.6, spread_mm: 0.06, spreadKnown: true, steps: 9, by: 'perspective' } },
    '0.6 mm apart (0.5 mm planned), told by how the view grew, give or take 10 %.',
  ],
  [{ depthOfField: { ratio: 1.04, found_mm: 0.78, spread: 0.02 } }, 'evenly. Slices 0.78 mm deep, as reckoned. Complete.'],
  [{ depthOfField: { ratio: 1.2, found_mm: 0.9, spread: 0.02 } }, 'Slices 0.9 mm deep, 20 % deeper than reckoned.'],
  [{ depthOfField: { ratio: 0.7, found_mm: 0.5, spread: 0.02 } }, 'Slices 0.5 mm deep, 30 % less deep than reckoned.'],
  [{ complete: null }, 'Not checked.'],
  [{ complete: false, gaps: 2, flawed: 1 }, 'Not complete: 2 gaps, 1 flawed.'],
  [{ complete: false }, 'An end was not reached.'],
  [{ moved_percent: 12, exposure_ev: 0.3 }, 'Complete: 12 % of the picture moved, exposure strayed by 0.3 EV.'],
  [{ needed: { frames: 15, every: 1.2 } }, '15 frames would have done, with 16 % overlap instead of 30 %.'],
  [{ needed: { frames: 9, every: 2 } }, '9 frames would have done, without any overlap.'],
  [{ needed: { frames: 18, every: 1 } }, 'All 18 were needed.'],
  [{ renders: 0, style: null }, 'Not fused. 12 MB.'],
  [{ renders: 2, delivered: 3 }, '2 renders, the newest auto, delivered 3 times. 12 MB.'],
])('%o is told as it is', (change, sentence) => expect(said(change)).toContain(sentence))

test('nothing is made up of gear that is not known', () => {
  expect(gearText({ ...entry, body: null, lens: null, fNumber: null, magnification: null, mover: null })).toBe('')
  expect(gearText({ ...entry, body: null, fNumber: null, magnification: 5, mover: 'ring' })).toBe('Macro 100 mm, at 5 : 1, by the focus ring')
})

test('charts begin with the oldest run, and leave out what is not known', () => {
  const older = { ...entry, at: '2026-01-01T00:00:00.000Z', needed: { frames: 9, every: 2 }, stride: null, frame_s: null }
  const { frames, strides, times } = seriesOf([entry, older])
  expect(frames).toEqual([
    { at: older.at, title: 'Seed', taken: 18, needed: 9 },
    { at: entry.at, title: 'Seed', taken: 18 },
  ])
  expect(strides).toEqual([{ at: entry.at, title: 'Seed', percent: 100 }])
  expect(times).toEqual([{ at: entry.at, title: 'Seed', minutes: (4 * 17) / 60 }])
})

test('what was wasted is failed frames, those that added nothing, and those that were not needed', () => {
  const { wasted, overlaps, depths } = seriesOf([
    { ...entry, flawed: 2, idle: 1, needed: { frames: 12, every: 1.5 }, depthOfField: { ratio: 0.9, found_mm: 1, spread: 0.01 } },
  ])
  expect(wasted).toEqual([{ at: entry.at, title: 'Seed', flawed: 2, repeated: 1, more: 6 }])
  expect(overlaps).toMatchObject([{ planned: 30, needed: expect.closeTo(-5, 9) }])
  expect(depths).toMatchObject([{ percent: 90 }])
})

test('runs that were not complete are counted by their reasons, of which one may have several', () => {
  const lost = { ...entry, complete: false }
  const runs = [
    entry,
    { ...entry, complete: null },
    { ...lost, gaps: 1, flawed: 1 },
    { ...lost, moved_percent: 9 },
    { ...lost, exposure_ev: 0.6, gaps: 2 },
  ]
  expect(seriesOf(runs).lost).toEqual([
    { why: 'a gap', runs: 2 },
    { why: 'an end not reached', runs: 1 },
    { why: 'a frame that failed', runs: 1 },
    { why: 'something moved', runs: 1 },
    { why: 'light that changed', runs: 1 },
  ])
})

test('runs can be chosen by lens and by setting where two were taken with it', () => {
  const runs = [entry, entry, { ...entry, fNumber: 8 }, { ...entry, lens: 'Wide 24 mm' }, { ...entry, lens: null }]
  const offered = choices(runs)
  expect(offered.map(({ label }) => label)).toEqual(['every lens', 'Macro 100 mm', 'Macro 100 mm, f/5.6, rail'])
  expect(offered.map(({ fits }) => runs.filter(fits).length)).toEqual([5, 3, 2])
})
