import { gaussian, randomStream } from '../simulate'
import { stepFor } from '../plan'
import { gapRisk, knownStep, type StepCalibration } from '.'

const now = { lens: 'Macro 100 mm', fNumber: 8, magnification: 1 }
const run = (stride_mm: number, rest: Partial<StepCalibration> = {}): StepCalibration => ({ ...now, step: 2, stride_mm, ...rest })

test('runs that agree are averaged, their spreads within and between put together', () => {
  const known = knownStep([run(0.6, { spread_mm: 0.012 }), run(0.62, { spread_mm: 0.0124 }), run(0.61, { spread_mm: 0.0122 })], now)!
  expect(known.step_mm).toBeCloseTo(0.305, 6)
  expect(known.runs).toBe(3)
  expect(known.conflict).toBeUndefined()
  // 2 % within a run, 1.6 % from run to run.
  expect(known.spread).toBeCloseTo(Math.hypot(0.02, 0.01 / 0.61), 4)
})

test('runs that do not agree are shown, and the longest is planned with', () => {
  const known = knownStep([run(0.5), run(0.62)], now)!
  expect(known.conflict).toEqual({ least_mm: 0.25, most_mm: 0.31 })
  expect(known.step_mm).toBe(0.31)
  expect(stepFor(1, { steps: 10, mostFrames: 100 }, [run(0.5), run(0.62)], now).code).toBe('step.conflict')
})

test('runs at several apertures tell whether the drive scales its step', () => {
  const kept = [4, 8, 16].map((fNumber) => run(0.6 + 0.002 * fNumber, { fNumber }))
  expect(knownStep(kept, now)).toMatchObject({ model: 'fixed' })
  const scaled = [4, 8, 16].map((fNumber) => run(0.075 * fNumber, { fNumber }))
  const known = knownStep(scaled, { ...now, fNumber: 11 })!
  expect(known.model).toBe('byAperture')
  expect(known.step_mm).toBeCloseTo((0.075 * 11) / 2, 6)
  // One run tells nothing of it: the longer one is taken.
  expect(knownStep([run(0.6)], { ...now, fNumber: 16 })).toMatchObject({ step_mm: 0.6, measuredAt: 8 })
})

test('another lens or size tells nothing', () => {
  expect(knownStep([run(0.6, { lens: 'Macro 60 mm' })], now)).toBeUndefined()
  expect(knownStep([run(0.6, { magnification: 0.5 })], now)).toBeUndefined()
})

test('the risk of a gap is that of simulated series', () => {
  const random = randomStream(5)
  const [stride_mm, spread, slice_mm, frames] = [0.5, 0.08, 0.58, 12]
  const series = Array.from({ length: 4000 }, () => Array.from({ length: frames - 1 }, () => stride_mm * (1 + spread * gaussian(random))))
  const gaps = series.filter((strides) => strides.some((stride) => stride > slice_mm)).length / series.length
  expect(gapRisk(stride_mm, spread, slice_mm, frames)).toBeCloseTo(gaps, 1)
  expect(gapRisk(0.5, 0, 0.49, 5)).toBe(1)
  expect(gapRisk(0.5, 0, 0.51, 5)).toBe(0)
})

test('after two measured runs no plan leaves a gap in 200 shoots, and takes few frames more than it must', () => {
  const random = randomStream(9)
  const [depth_mm, slice_mm, step_mm, spread] = [9, 0.75, 0.06, 0.05]
  const measured = [1, 2].map(() => run(2 * step_mm * (1 + 0.01 * gaussian(random)), { spread_mm: 2 * step_mm * spread }))
  // A fifth of overlap is asked for.
  const wanted_mm = 0.8 * slice_mm
  const { step } = stepFor(wanted_mm, { steps: 20, mostFrames: 999 }, measured, now, { slice_mm, frames: depth_mm / wanted_mm })
  const frames = Math.ceil((depth_mm - slice_mm) / (step * step_mm)) + 1
  const shoots = Array.from({ length: 200 }, () => Array.from({ length: frames - 1 }, () => step * step_mm * (1 + spread * gaussian(random))))
  expect(shoots.filter((strides) => strides.some((stride) => stride > slice_mm))).toHaveLength(0)
  const least = Math.ceil((depth_mm - slice_mm) / wanted_mm) + 1
  expect(frames / least).toBeLessThanOrEqual(1.15)
})

test('a drive that strays more than the overlap forgives gets a smaller step', () => {
  const [even, straying] = [0.01, 0.15].map((part) => [run(0.12, { spread_mm: 0.12 * part }), run(0.121, { spread_mm: 0.12 * part })])
  const [calm, careful] = [even, straying].map((runs) => stepFor(0.6, { steps: 20, mostFrames: 999 }, runs, now, { slice_mm: 0.75, frames: 15 }))
  expect(calm.step).toBe(9)
  expect(careful.step).toBeLessThan(calm.step)
  expect(careful.text).toMatch(/± 1[5-6] %.*Risk of a gap: below 1 %/)
})
