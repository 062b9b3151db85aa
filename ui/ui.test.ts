import { NEW_SHEET, planSheet, withGear, type PlanSheet } from '@/core/sheet'
import { STARTER_KIT as kit } from '@/core/kit'
import { sideGeometry } from './plan/answer/sideGeometry'
import { rulerAcross_mm } from './plan/inputs/ruler'
import { placeLabels } from './ribbon/labels'
import { dioptreScale, evenScale } from './ribbon/scale'
import { editText, readLength_mm } from './units/lengthEdit'

describe('the ribbon’s scale', () => {
  test('is even in mm, with round ticks inside it', () => {
    const { x, ticks } = evenScale(-1, 13, 900)
    expect(x(-1)).toBe(0)
    expect(x(13)).toBe(900)
    expect(x(6)).toBeCloseTo(450, 9)
    expect(ticks.length).toBeGreaterThan(4)
    for (const { at } of ticks) expect(at >= 0 && at <= 900).toBe(true)
  })

  test('has round ticks in inches too', () => {
    const { x, ticks, unit } = evenScale(-2, 52, 900, 'inches')
    expect(unit).toBe('inches')
    expect(ticks.find(({ label }) => label === '1')!.at).toBeCloseTo(x(25.4), 9)
  })

  test('is even in dioptres to infinity, its labels apart', () => {
    const { x, ticks } = dioptreScale(500, Infinity, 800)
    expect(x(500)).toBe(0)
    expect(x(1000)).toBeCloseTo(400, 9)
    expect(x(Infinity)).toBe(800)
    expect(ticks.at(-1)).toEqual({ at: 800, label: '∞' })
    ticks.slice(1).forEach(({ at }, k) => expect(at - ticks[k].at).toBeGreaterThanOrEqual(34))
  })
})

test('labels keep apart and inside, in as few rows as that takes', () => {
  const far = placeLabels(
    [
      { at: 100, text: 'gate' },
      { at: 300, text: 'hill' },
    ],
    400,
  )
  expect(far.map(({ row }) => row)).toEqual([0, 0])
  const close = placeLabels(
    [
      { at: 390, text: 'hill · 4' },
      { at: 380, text: 'gate · 4' },
      { at: 2, text: 'trough' },
    ],
    400,
  )
  expect(close[0].row).not.toBe(close[1].row)
  for (const { at } of close) expect(at > 15 && at < 385).toBe(true)
})

describe('lengths in fields', () => {
  test.each([
    [9, 'close', 'metric', '9'],
    [550, 'far', 'metric', '0.55'],
    [9.525, 'close', 'inches', '3/8″'],
    [9, 'close', 'inches', '0.3543″'],
    [2438.4, 'far', 'inches', '8′'],
    [null, 'close', 'metric', ''],
    [NaN, 'close', 'metric', ''],
  ] as const)('%s %s %s stands as %j', (mm, scale, system, text) => expect(editText(mm, scale, system)).toBe(text))

  test.each([
    ['12', 'close', 'metric', 12],
    ['1.5', 'far', 'metric', 1500],
    ['3 5/16', 'close', 'inches', 84.1375],
    ['2', 'far', 'inches', 609.6],
    ['40 cm', 'far', 'inches', 400],
    ['', 'close', 'metric', null],
    ['12 mm 3"', 'close', 'metric', NaN],
  ] as const)('%j %s %s is read as %s mm', (text, scale, system, mm) => {
    const read = readLength_mm(text, scale, system)
    if (typeof mm === 'number' && mm > 0) expect(read).toBeCloseTo(mm, 9)
    else expect(read).toBe(mm)
  })
})

test('a ruler’s length across the frame follows from two marks, square or slanting', () => {
  expect(
    rulerAcross_mm(
      [
        { x: 0.2, y: 0.5 },
        { x: 0.7, y: 0.5 },
      ],
      2 / 3,
      10,
    ),
  ).toBeCloseTo(20, 9)
  expect(
    rulerAcross_mm(
      [
        { x: 0, y: 0 },
        { x: 0.6, y: 0.8 },
      ],
      1,
      10,
    ),
  ).toBeCloseTo(10, 9)
  expect(
    rulerAcross_mm(
      [
        { x: 0.4, y: 0.4 },
        { x: 0.4, y: 0.4 },
      ],
      1,
      10,
    ),
  ).toBeUndefined()
})

describe('the side view', () => {
  const view = (change: Partial<PlanSheet> = {}) => {
    const sheet = { ...withGear(NEW_SHEET, kit), ...change }
    return sideGeometry(planSheet(sheet, kit), sheet)
  }

  test('puts the subject at the lens’s own nearest focus at life size, and ends behind it', () => {
    const { subject, lens, end, slices, travel } = view()
    expect(subject.from).toBeCloseTo(309, 6)
    expect(subject.to - subject.from).toBeCloseTo(9, 9)
    expect(lens.to).toBe(145)
    expect(end).toBeGreaterThan(subject.to)
    expect(slices[0].from).toBeLessThan(subject.from)
    expect(travel).toBeGreaterThan(9)
  })

  test('never draws the subject inside the lens, however the size is reached', () => {
    for (const reach of ['extension', 'closeUp', 'reversed', 'faceToFace', 'objective'] as const) {
      const { subject, lens, end } = view({ reach, lens: 'Short 50 mm', depth_mm: 0.4, rail: 'Motor rail' })
      expect(subject.from).toBeGreaterThan(lens.to)
      expect(Number.isFinite(end)).toBe(true)
    }
  })

  test('cuts a landscape behind the last thing that matters', () => {
    const { end, endless, targets, subject } = view({
      kind: 'range',
      lens: 'Wide 24 mm',
      fNumber: 8,
      targets: [
        { name: 'gate', distance_mm: 9000 },
        { name: 'hill', distance_mm: null },
      ],
    })
    expect(endless).toBe(true)
    expect(Number.isFinite(end)).toBe(true)
    expect(subject.to).toBe(end)
    expect(targets.filter(({ at }) => at < end).map(({ name }) => name)).toEqual(['gate'])
  })
})
