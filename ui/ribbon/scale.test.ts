import * as fc from 'fast-check'
import { planSeries } from '@/core/plan'
import { STARTER_KIT } from '@/core/kit'
import { NEW_SHEET, planSheet, withGear, type PlanSheet } from '@/core/sheet'
import { axisOf, subjectEnds } from './axis'
import { placeLabels } from './labels'
import { dioptreScale, evenScale } from './scale'

const planned = (change: Partial<PlanSheet>) => planSheet({ ...withGear(NEW_SHEET, STARTER_KIT), ...change }, STARTER_KIT)
const GARDEN: Partial<PlanSheet> = { kind: 'range', lens: 'Wide 24 mm', fNumber: 8, near_mm: 550, far_mm: null, from: 'sensor' }

const spans = fc.record({
  from: fc.double({ min: -500, max: 500, noNaN: true }),
  length: fc.double({ min: 0.01, max: 5000, noNaN: true }),
  width: fc.integer({ min: 120, max: 2400 }),
})

describe('an even scale', () => {
  test('goes from end to end, and marks only what lies on it, evenly and in round numbers', () => {
    fc.assert(
      fc.property(spans, fc.constantFrom('metric' as const, 'inches' as const), ({ from, length, width }, system) => {
        const { x, ticks } = evenScale(from, from + length, width, system)
        expect(x(from)).toBeCloseTo(0, 6)
        expect(x(from + length)).toBeCloseTo(width, 6)
        expect(ticks.length).toBeGreaterThan(0)
        for (const { at } of ticks) expect(at).toBeGreaterThanOrEqual(-1e-6)
        for (const { at } of ticks) expect(at).toBeLessThanOrEqual(width + 1e-6)
        const apart = ticks.slice(1).map(({ at }, k) => at - ticks[k].at)
        for (const gap of apart) expect(gap).toBeCloseTo(apart[0], 6)
        // Each label is where it says.
        const unit_mm = system === 'inches' ? 25.4 : 1
        for (const { at, label } of ticks) expect(Math.abs(x(Number(label) * unit_mm) - at)).toBeLessThan(0.01)
      }),
    )
  })

  test.each([
    ['metric', ['0', '2', '4', '6', '8'], 'mm'],
    ['inches', ['0', '0.05', '0.1', '0.15', '0.2', '0.25', '0.3', '0.35'], 'inches'],
  ] as const)('of a subject of 9 mm is labelled in steps that people count in: %s', (system, labels, unit) => {
    const scale = evenScale(-0.2, 9.2, 820, system)
    expect(scale.unit).toBe(unit)
    expect(scale.ticks.map(({ label }) => label)).toEqual(labels)
  })
})

describe('a scale of distances', () => {
  test('is even in dioptres, from the near end to the far one, which may be infinity', () => {
    for (const far of [2000, 50_000, Infinity]) {
      const { x } = dioptreScale(500, far, 600)
      expect([x(500), x(far)].map((at) => Number(at.toFixed(6)))).toEqual([0, 600])
      // Half the way in dioptres is the middle.
      expect(x(2 / (1 / 500 + 1 / far))).toBeCloseTo(300, 6)
    }
  })

  test('its labels rise, keep apart, and lie where they say', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 80, max: 20_000, noNaN: true }),
        fc.double({ min: 1.05, max: 1000, noNaN: true }),
        fc.integer({ min: 150, max: 1600 }),
        (near, times, width) => {
          const { x, ticks } = dioptreScale(near, times > 900 ? Infinity : near * times, width)
          ticks.slice(1).forEach(({ at }, k) => expect(at - ticks[k].at).toBeGreaterThanOrEqual(34))
          for (const { at, label } of ticks) expect(Math.abs(x(label === '∞' ? Infinity : Number(label) * 1000) - at)).toBeLessThan(0.5)
        },
      ),
    )
  })

  test('infinity is labelled where the range goes on to it, whatever stands close by gives way', () => {
    const { ticks, unit } = dioptreScale(550, Infinity, 600)
    expect([ticks.at(-1)!.label, ticks.at(-1)!.at, unit]).toEqual(['∞', 600, 'metres'])
    expect(dioptreScale(550, 20_000, 600).ticks.map(({ label }) => label)).not.toContain('∞')
    expect(dioptreScale(550, Infinity, 600, 'inches').unit).toBe('feet')
  })

  test('labels may be measured from elsewhere than the places', () => {
    const scale = dioptreScale(500, Infinity, 600, 'metric', (mm) => mm - 40)
    const one = scale.ticks.find(({ label }) => label === '1')!
    expect(one.at).toBeCloseTo(scale.x(960), 6)
  })
})

describe('the axis of a plan', () => {
  test('holds the subject and every slice, with the subject’s ends at its distances', () => {
    for (const change of [{}, { depth_mm: 60, mover: 'ring' as const }, GARDEN, { ...GARDEN, far_mm: 4000 }]) {
      const { plan, request } = planned(change)
      const axis = axisOf(plan, request, 900, 'metric')
      const { near, far } = subjectEnds(request)
      const all = [near, far, ...plan.frames.flatMap((frame) => [frame.near_mm, frame.far_mm])]
      for (const mm of all) {
        expect(axis.x(mm)).toBeGreaterThanOrEqual(-1e-6)
        expect(axis.x(mm)).toBeLessThanOrEqual(900 + 1e-6)
      }
      // Far lies right of near, frame by frame.
      for (const { near_mm, far_mm } of plan.frames) expect(axis.x(far_mm)).toBeGreaterThan(axis.x(near_mm))
    }
  })

  test('measured from the sensor it says so in its labels: 1 m from the sensor is less from the lens', () => {
    const { plan, request } = planned(GARDEN)
    const fromLens = { ...request, subject: { kind: 'range' as const, near_mm: 500, far_mm: Infinity, from: 'lens' as const } }
    const at = (of: typeof request) => axisOf(plan, of, 900, 'metric').ticks.find(({ label }) => label === '1')!.at
    expect(at(request)).toBeLessThan(at(fromLens))
    expect(planSeries(fromLens).frames.length).toBeGreaterThan(1)
  })
})

describe('labels over their points', () => {
  test('never overlap in a row and never leave the drawing', () => {
    const labels = fc.array(fc.record({ at: fc.double({ min: 0, max: 800, noNaN: true }), text: fc.string({ minLength: 1, maxLength: 18 }) }), {
      minLength: 1,
      maxLength: 9,
    })
    fc.assert(
      fc.property(labels, (all) => {
        const placed = placeLabels(all, 800)
        const ends = placed.map(({ at, row }, k) => ({ row, from: at - (all[k].text.length * 6.6) / 2, to: at + (all[k].text.length * 6.6) / 2 }))
        for (const { from, to } of ends) expect([from >= -1e-6, to <= 800 + 1e-6]).toEqual([true, true])
        for (const a of ends) for (const b of ends) if (a !== b && a.row === b.row) expect(a.to <= b.from || b.to <= a.from).toBe(true)
      }),
    )
  })

  test('stand in one row where there is room, and over each other where they name the same place', () => {
    const far = [
      { at: 100, text: 'trough' },
      { at: 500, text: 'gate' },
    ]
    expect(placeLabels(far, 800)).toEqual([
      { at: 100, row: 0 },
      { at: 500, row: 0 },
    ])
    expect(placeLabels([far[0], { at: 101, text: 'wall' }, { at: 102, text: 'hill' }], 800).map(({ row }) => row)).toEqual([0, 1, 2])
  })
})
