import { imageDistance_mm } from '../optics'
import { PairRegistrar, Preparer, SeriesRegistrar } from '../register'
import { luma } from '../raster'
import { SimulatedSeries } from '../simulate'
import { strideByScale } from './strideByScale'
import type { PlanRequest } from './request'
import { landscape, macro } from './testRequests'

const byRing: PlanRequest = { ...macro, mover: { kind: 'ring' } }
/** f = 100 mm at life size: 200 mm from lens and pupil. */
const D_mm = 200
const onRail = (positions: number[]) => positions.map((at) => ({ scale: Math.exp(at / D_mm) }))
const breathed = (positions: number[], times = 1) =>
  positions.map((at) => ({ scale: (imageDistance_mm(100, D_mm + at) / imageDistance_mm(100, D_mm)) ** times }))
const even = Array.from({ length: 10 }, (_, k) => 0.6 * k)

test('on a rail what stays in focus grows by one part in the distance of the pupil for each mm', () => {
  const found = strideByScale(onRail(even), macro)!
  expect(found).toMatchObject({ steps: 9, by: 'perspective' })
  expect(found.mean_mm).toBeCloseTo(0.6, 9)
  expect(found.spread_mm).toBeCloseTo(0, 9)
})

test('by the ring the scale goes with the image distance, as often as the lens breathes', () => {
  for (const times of [1, 0.4]) {
    const request = { ...byRing, optics: { ...byRing.optics, breathing: times } as PlanRequest['optics'] }
    const found = strideByScale(breathed(even, times), request)!
    expect(found.by).toBe('breathing')
    expect(found.mean_mm).toBeCloseTo(0.6, 6)
    expect(found.positions_mm.at(-1)).toBeCloseTo(5.4, 6)
  }
})

test('uneven steps are told by their spread, whichever frame the scales are against', () => {
  const places = [0, 0.5, 1.2, 1.7, 2.4, 2.9, 3.6, 4.1]
  const scales = onRail(places)
  const found = strideByScale(
    scales.map(({ scale }) => ({ scale: scale / scales[3].scale })),
    macro,
  )!
  expect(found.mean_mm).toBeCloseTo(4.1 / 7, 9)
  expect(found.spread_mm).toBeCloseTo(0.107, 2)
})

test('a spread is known where steps differ by more than what two ways of measuring them disagree by, and by three such disagreements', () => {
  const [straying, gap] = [[0, 0.5, 1.2, 1.7, 2.4, 2.9, 3.6, 4.1], 0.03]
  const told = (places: number[], gap_mm: number, from = 2) =>
    strideByScale(
      onRail(places).map((frame, k) => ({ ...frame, ...(k >= from && { scale_gap: (k % 2 ? gap_mm : -gap_mm) / D_mm }) })),
      macro,
    )!
  expect(told(straying, gap)).toMatchObject({ spreadKnown: true, spread_mm: expect.closeTo(0.107, 3) })
  expect(told(straying, 0.1)).toMatchObject({ spreadKnown: false, spread_mm: expect.closeTo(Math.hypot(0.107, 0.05), 3) })
  expect(told(even, gap)).toMatchObject({ spreadKnown: false, spread_mm: expect.closeTo(gap / 2, 6) })
  expect(told(straying, gap, 6).spreadKnown).toBe(false)
  expect(strideByScale(onRail(straying), macro)!.spreadKnown).toBe(false)
})

test('frames before and behind the subject, which have nothing in focus, do not count', () => {
  const shares = [0.3, 0.5, 30, 0.4, 20, 25, 23, 0.5, 0.3]
  // What they show lies in the subject: its scale changes by less than that of where they are focused.
  const places = [-0.9, -0.5, 0, 0.6, 1.2, 1.8, 2.4, 2.7, 3]
  const frames = onRail(places).map(({ scale }, k) => ({ scale, share_percent: shares[k] }))
  const found = strideByScale(frames, macro)!
  expect(found.steps).toBe(4)
  expect(found.mean_mm).toBeCloseTo(0.6, 9)
  expect(found.positions_mm).toHaveLength(9)
  expect(strideByScale(frames.map((frame, k) => ({ ...frame, share_percent: k === 4 ? 97 : 0.4 })), macro)).toBeUndefined() // prettier-ignore
})

test('nothing is said of few frames, of a scale that stays, of one that goes to and fro, of a range, or through an objective', () => {
  expect(strideByScale(onRail(even).slice(0, 3), macro)).toBeUndefined()
  expect(strideByScale(onRail(even.map((at) => at / 20)), macro)).toBeUndefined()
  expect(strideByScale(onRail([0, 2, 0.1, 2.1, 0.2, 2.2]), macro)).toBeUndefined()
  expect(strideByScale(onRail(even).reverse(), macro)).toBeUndefined()
  expect(strideByScale(breathed(even), landscape)).toBeUndefined()
  const optics = { kind: 'objective', designMagnification: 10, designTube_mm: 200, tube_mm: 200, numericalAperture: 0.25 } as const
  expect(strideByScale(onRail(even), { ...macro, optics })).toBeUndefined()
})

test.each(['rail', 'ring'] as const)('of a simulated run by %s it is within 3 % of where the focus was', (mover) => {
  const positions_mm = Array.from({ length: 9 }, (_, k) => 1.2 * k)
  const camera = { sensorWidth_mm: 36, width_px: 480, height_px: 320, mover, fNumber: 5.6, magnification: 1, focalLength_mm: 100 }
  const series = new SimulatedSeries({
    scene: 'fossil',
    seed: 5,
    camera,
    positions_mm,
    unsteadiness: { shift_px: 0.7, rotation_deg: 0.03, exposure_ev: 0.02 },
    fullWell: 30_000,
    faults: [],
  })
  const registrar = new SeriesRegistrar(480, new PairRegistrar())
  const preparer = new Preparer()
  for (let k = 0; k < series.count; k++) registrar.add(preparer.fromLuma(luma(series.shoot(k).picture)))
  const { motions } = registrar.finish(4)
  // The camera has its magnification in the middle of the series; a plan's is that of the near edge, where the ring focuses closer.
  const magnification = mover === 'ring' ? 100 / (D_mm - positions_mm[4] - 100) : 1
  const request = { ...macro, mover: { ...macro.mover, kind: mover }, optics: { ...macro.optics, magnification } } as PlanRequest
  const found = strideByScale(motions, request)!
  expect(Math.abs(found.mean_mm / 1.2 - 1)).toBeLessThan(0.03)
})
