import type { Plan } from '@/core/plan'
import { depthPlaces } from './depthPlaces'

const depth = { frames: Array.from({ length: 21 }, (_, k) => ({ index: k + 1, position_mm: 0.5 * k })) } as Plan
const range = { hyperfocal_mm: 9000, frames: [540, 1000, 4000, 50_000].map((focusDistance_mm, k) => ({ index: k + 1, focusDistance_mm })) } as Plan

test('while a run is shot, the fourth frame wears the colour of the plan’s fourth slice, not of the last', () => {
  expect(depthPlaces([0, 0.5, 1, 1.52], depth, 0)).toEqual([0, 1 / 20, 2 / 20, 3 / 20])
})

test('a range is compared by distances', () => {
  expect(depthPlaces([0, 3000, 40_000], range, 550)).toEqual([0, 2 / 3, 1])
})

test('frames whose focus is not known go by their order', () => {
  expect(depthPlaces([null, null, null], depth, 0)).toEqual([0, 0.5, 1])
})
