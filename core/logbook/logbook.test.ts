import { depthFound, logCsv, neededOverlap, strideOf, type LogEntry } from '.'

const entry: LogEntry = {
  run: 3,
  shoot: 2,
  number: 1,
  title: 'Seed, "winged"',
  at: '2026-05-11T09:30:00.000Z',
  source: 'imported',
  body: 'Body A',
  lens: 'Macro 100 mm',
  fNumber: 5.6,
  magnification: 1,
  mover: 'rail',
  planned: { frames: 18, stride_mm: 0.54, overlap: 0.3 },
  frames: 20,
  used: 18,
  stride: { mean_mm: 0.5512345678, spread_mm: 0.01, spreadKnown: true, steps: 17, by: 'position' },
  depthOfField: { ratio: 1.04, found_mm: 0.8, spread: 0.02 },
  frame_s: 4,
  exposure_ev: 0.06,
  flawed: 1,
  idle: 1,
  gaps: 0,
  complete: true,
  moved_percent: null,
  needed: { frames: 9, every: 2 },
  renders: 2,
  render: 7,
  style: 'auto',
  delivered: 1,
  bytes: 12_000_000,
  stars: 4,
  note: '=1+1 is no formula,\nbut two lines',
  tags: ['seeds', 'tray 4'],
}

test('the stride of a run is the mean of its steps, whatever the order, with their standard deviation', () => {
  const { mean_mm, spread_mm, steps } = strideOf([3.1, 0, 1, 2])!
  expect(steps).toBe(3)
  expect(mean_mm).toBeCloseTo(3.1 / 3, 9)
  expect(spread_mm).toBeCloseTo(Math.sqrt(((1 - 3.1 / 3) ** 2 * 2 + (1.1 - 3.1 / 3) ** 2) / 2), 9)
  expect(strideOf([1, 2])).toBeNull()
})

test('slices are deeper where blur grows more slowly, and by a ring the size at both ends counts', () => {
  const plan = { depthOfField_mm: 0.5, workingFNumber: 8 }
  // 0.4 mm at life size through f/8: 0.05 mm of blur, on 36 mm.
  const step = { ofWidth: 0.05 / 36 / 1.25, spread: 0.03 }
  expect(depthFound(step, 0.4, plan, [1, 1], 36)).toMatchObject({ ratio: expect.closeTo(1.25, 9), found_mm: expect.closeTo(0.625, 9), spread: 0.03 })
  expect(depthFound(step, 0.4, plan, [1, 0.8], 36).ratio).toBeCloseTo(1, 9)
})

test('the overlap that was needed follows from how many frames were left out, and may be less than none', () => {
  expect(neededOverlap({ ...entry, needed: { frames: 15, every: 1.2 } })).toBeCloseTo(0.16, 9)
  expect(neededOverlap(entry)).toBeCloseTo(-0.4, 9)
  expect(neededOverlap({ ...entry, planned: null })).toBeNull()
  expect(neededOverlap({ ...entry, needed: null })).toBeNull()
})

test('as CSV each line has the fields of the head; quotes, commas and lines stay one field, and no word is a formula', () => {
  const [head, ...rows] = logCsv([entry, { ...entry, note: '', planned: null }]).split(/\r\n/)
  expect(rows).toHaveLength(2)
  expect(head.split(',')).toHaveLength(35)
  expect(rows[0]).toMatch(
    /^"Seed, ""winged""",1,2026-05-11T09:30:00.000Z,imported,Body A,Macro 100 mm,5.6,1,rail,18,0.54,30,20,18,0.551235,position,0.01,measured,0.8,104,4,/,
  )
  expect(rows[0]).toMatch(/,9,-40,2,auto,1,12000000,4,seeds tray 4,"'=1\+1 is no formula,\nbut two lines"$/)
  expect(rows[1].split('","').join('').split(',')[10]).toBe('')
})
