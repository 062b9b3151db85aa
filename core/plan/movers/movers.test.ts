import { chainedParts, microstep_mm, microstepsAt, moverAdvice, stepFor } from '.'
import type { StepCalibration } from '../../learn'
import { planSeries, type LensOptics } from '..'
import { macro } from '../testRequests'

describe('a motorised rail', () => {
  const rail = { pitch_mm: 1, stepsPerTurn: 200, microsteps: 16, length_mm: 80 }
  test('3200 microsteps to a millimetre', () => expect(microstep_mm(rail)).toBeCloseTo(1 / 3200, 12))
  test('counts the nearest one', () => expect([0, 0.62, 12.4].map((mm) => microstepsAt(mm, rail))).toEqual([0, 1984, 39680]))
})

describe('bracketing by a step number without a unit', () => {
  const body = { steps: 10, mostFrames: 100 }
  const measured: StepCalibration = { lens: 'Macro 100 mm', fNumber: 8, magnification: 1, step: 2, stride_mm: 0.3 }
  const now = { lens: 'Macro 100 mm', fNumber: 8, magnification: 1 }

  test('takes the largest step not above the stride', () => {
    expect(stepFor(0.62, body, [measured], now)).toMatchObject({ step: 4, calibrated: true })
    expect(stepFor(0.62, body, [measured], now).stride_mm).toBeCloseTo(0.6, 9)
    expect(stepFor(0.62, body, [measured], now).code).toBe('step.measured')
  })

  test('believes the model with the longer stride at another aperture', () => {
    // Scaled by the aperture, a step is twice as long at f/16; fixed, it is as long at f/5.6 as at f/8.
    expect(stepFor(0.62, body, [measured], { ...now, fNumber: 16 }).step).toBe(2)
    expect(stepFor(0.62, body, [measured], { ...now, fNumber: 5.6 }).step).toBe(4)
  })

  test('never goes beyond the range, nor below step 1', () => {
    expect(stepFor(9, body, [measured], now).step).toBe(10)
    expect(() => stepFor(0.1, body, [measured], now)).toThrow(expect.objectContaining({ code: 'plan.stepTooLarge' }))
  })

  test('without a measurement for this lens and scale the suggestion says that it is one', () => {
    for (const other of [[], [{ ...measured, lens: 'Wide 24 mm' }], [{ ...measured, magnification: 0.2 }]]) {
      const advice = stepFor(0.62, body, other, now)
      expect(advice).toMatchObject({ step: 2, calibrated: false })
      expect(advice.stride_mm).toBeUndefined()
      expect(advice.code).toBe('step.guess')
    }
  })

  test('chains a series with one frame in common, none missing', () => {
    expect(chainedParts(60, 100)).toEqual([60])
    expect(chainedParts(250, 100)).toEqual([100, 100, 52])
    for (const [count, most] of [
      [101, 100],
      [500, 7],
      [1999, 30],
    ]) {
      const parts = chainedParts(count, most)
      expect(Math.max(...parts)).toBeLessThanOrEqual(most)
      expect(parts.reduce((sum, part) => sum + part) - (parts.length - 1)).toBe(count)
    }
    expect(() => chainedParts(5, 1)).toThrow(expect.objectContaining({ code: 'plan.noChain' }))
  })
})

describe('rail or ring', () => {
  const advise = (magnification: number, depth_mm: number, background_mm?: number) => {
    const optics = { ...(macro.optics as LensOptics), magnification }
    return moverAdvice(planSeries({ ...macro, optics, subject: { kind: 'depth', depth_mm } }), optics, depth_mm, background_mm)
  }

  test('the change of perspective follows from the pupil distance and the travel', () => {
    const plan = planSeries(macro)
    const travel = plan.frames.at(-1)!.travel_mm!
    // f = 100, m = 1, P = 1: the pupil is 200 mm from the plane of focus.
    const wanted = 200 / (200 - travel) / (212 / (212 - travel))
    expect(advise(1, 12).perspectiveChange_percent).toBeCloseTo(100 * (wanted - 1), 9)
  })

  test('favours the rail above life size and the ring below', () => {
    expect(advise(3, 4).favoured).toBe('rail')
    expect(advise(0.3, 60).favoured).toBe('ring')
  })

  test('a background in frame is named with what the rail would do to it', () => {
    expect(advise(0.5, 40, 600).reason).toMatch(/background would slide by \d/)
    expect(advise(0.5, 40).backgroundShift_percent).toBe(0)
  })
})
