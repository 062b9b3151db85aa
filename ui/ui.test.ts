import { planSeries } from '@/core/plan'
import { DEMO_SHOOTS } from '@/demo/scenario'
import { completePlanRequest } from '@/schemas'
import { draftOf, NEW_DRAFT, planOf, requestOf, type Draft } from './plan/draft'
import { oneFrameText, verdictOf } from './plan/verdict'
import { dioptreScale, evenScale } from './ribbon/scale'
import { apertureText, dateText, durationText, lengthText, significant, storageText } from './units'

describe('reading figures', () => {
  test.each([
    [0.01234, '12.3 µm'],
    [0.62, '0.62 mm'],
    [12.5, '12.5 mm'],
    [2424, '2.42 m'],
    [Infinity, '∞'],
    [0, '0 mm'],
  ])('length %d', (length_mm, text) => expect(lengthText(length_mm)).toBe(text))

  test.each([
    [48, '48 s'],
    [190, '3 min 10 s'],
    [180, '3 min'],
    [3900, '1 h 5 min'],
  ])('duration %d', (duration_s, text) => expect(durationText(duration_s)).toBe(text))

  test('storage, apertures and dates', () => {
    expect(storageText(945)).toBe('945 MB')
    expect(storageText(2560)).toBe('2.56 GB')
    expect(apertureText(5.6)).toBe('f/5.6')
    expect(apertureText(16)).toBe('f/16')
    expect(dateText('2026-05-11T09:30:00Z')).toBe('11 May 2026')
  })

  test('significant figures without exponents', () => {
    expect(significant(0.000012345, 3)).toBe('0.0000123')
    expect(significant(123456, 3)).toBe('123456')
    expect(significant(0, 3)).toBe('0')
  })
})

describe('the ribbon’s scale', () => {
  test('is even in mm, with round ticks inside it', () => {
    const { x, ticks } = evenScale(-1, 13, 900)
    expect(x(-1)).toBe(0)
    expect(x(13)).toBe(900)
    expect(x(6)).toBeCloseTo(450, 9)
    expect(ticks.length).toBeGreaterThan(4)
    for (const { at } of ticks) expect(at >= 0 && at <= 900).toBe(true)
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

describe('a draft', () => {
  const planned = (change: Partial<Draft>) => planOf({ ...NEW_DRAFT, ...change })

  test('plans from its first values', () => {
    expect(planned({})).toMatchObject({ plan: { magnification: 1 }, request: { subject: { kind: 'depth' } } })
  })

  test.each([
    ['magnification', null, 'optics.magnification'],
    ['magnification', 0, 'optics.magnification'],
    ['depth_mm', -3, 'subject.depth_mm'],
    ['depth_mm', 1e9, 'subject.depth_mm'],
    ['fNumber', null, 'optics.fNumber'],
    ['overlap_percent', 120, 'overlap'],
    ['overlap_percent', null, 'overlap'],
    ['resolution_mm', 5, 'mover.resolution_mm'],
  ] as const)('%s = %s is refused at its own field', (key, value, field) => {
    const result = planned({ [key]: value })
    if (key === 'depth_mm' && value === 1e9) expect(result).toMatchObject({ field: 'subject', error: expect.stringContaining('limit') })
    else expect(result).toMatchObject({ field })
  })

  test('a range swapped or too near is said at its field', () => {
    expect(planned({ kind: 'range', near_mm: 900, far_mm: 500 })).toMatchObject({ field: 'subject.far_mm' })
    expect(planned({ kind: 'range', near_mm: 120 })).toMatchObject({ field: 'subject.near_mm' })
  })

  test.each(DEMO_SHOOTS.map((shoot) => [shoot.title, shoot] as const))('%s comes back from the database as it was planned', (_, shoot) => {
    const stored = JSON.parse(JSON.stringify(shoot.plan))
    const result = planOf(draftOf({ ...shoot, planRequest: stored }))
    expect(result).toHaveProperty('plan')
    if ('plan' in result) expect(result.plan.frames).toEqual(planSeries(completePlanRequest(stored)).frames)
  })

  test('a range has neither magnification nor rail', () => {
    expect(requestOf({ ...NEW_DRAFT, kind: 'range' })).toMatchObject({
      mover: { kind: 'ring' },
      optics: expect.not.objectContaining({ magnification: 1 }),
    })
  })
})

describe('the verdict', () => {
  const of = (change: Partial<Draft>) => {
    const result = planOf({ ...NEW_DRAFT, ...change })
    if (!('plan' in result)) throw new Error(result.error)
    return verdictOf(result.plan, result.request)
  }

  test('says frames, stride, time and storage', () => {
    expect(of({})).toMatch(/^\d+ frames, 0\.\d+ mm apart, .*s, .*B$/)
  })

  test('says when one frame is enough, margins or not', () => {
    expect(of({ depth_mm: 0.1 })).toBe('One frame is enough')
    expect(of({ kind: 'range', near_mm: 90_000, lens: 'Wide 24 mm', fNumber: 8 })).toBe('One frame is enough')
  })

  test('a range is moved by the ring', () => {
    expect(of({ kind: 'range', lens: 'Wide 24 mm', fNumber: 8 })).toMatch(/^\d+ frames by the focus ring/)
  })

  test('names the aperture that would save the series, or says that none does', () => {
    const result = planOf({ ...NEW_DRAFT, depth_mm: 0.5, blur_pixels: 6 })
    if ('plan' in result) expect(oneFrameText(result.plan)).toMatch(/^One frame at f\//)
    if ('plan' in result) expect(oneFrameText(result.plan, 2)).toContain('this lens ends at f/2')
    const deep = planOf(NEW_DRAFT)
    if ('plan' in deep) expect(oneFrameText(deep.plan)).toContain('does not hold')
  })
})
