import { IDENTITY } from '../raster'
import { motionTrend } from '.'

const steady = (k: number) => ({ ...IDENTITY, scale: 1 + 0.003 * (k - 5), dx_px: 0.2 * Math.sin(k * 2.1), dy_px: 0.15 * Math.cos(k * 1.7) })

test('a steady series has a trend and nothing beside it', () => {
  const trend = motionTrend(
    Array.from({ length: 12 }, (_, k) => steady(k)),
    600,
  )
  expect(trend.some(({ outlier }) => outlier)).toBe(false)
  expect(trend[0].scale_percent).toBeCloseTo(-1.5, 6)
})

test('one frame that jumps out stands out, its neighbours do not', () => {
  const motions = Array.from({ length: 12 }, (_, k) => (k === 6 ? { ...steady(k), dx_px: 9 } : steady(k)))
  expect(motionTrend(motions, 600).flatMap(({ outlier }, k) => (outlier ? [k] : []))).toEqual([6])
})

test('after a bump the frames on both sides of it stand out', () => {
  const motions = Array.from({ length: 12 }, (_, k) => ({ ...steady(k), dx_px: steady(k).dx_px + (k >= 6 ? 20 : 0) }))
  expect(motionTrend(motions, 600).flatMap(({ outlier }, k) => (outlier ? [k] : []))).toEqual([5, 6])
})

test('two frames or one have no trend to leave', () => {
  expect(motionTrend([IDENTITY, { ...IDENTITY, dx_px: 50 }], 600).some(({ outlier }) => outlier)).toBe(false)
})
