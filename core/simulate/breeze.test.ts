import { SimulatedSeries } from '.'
import { closeUp } from './testRequests'

const request = closeUp({}, { fNumber: 8 })
const calm = new SimulatedSeries(request)
const breezy = new SimulatedSeries({ ...request, breeze_mm: 1 })

/** Share of the pixels whose green differs by more than noise between the two series. */
function changed(index: number): number {
  const [a, b] = [calm, breezy].map((series) => series.shoot(index).picture.planes[1].data)
  return a.reduce((count, value, i) => count + Number(Math.abs(value - b[i]) > 0.1), 0) / a.length
}

test('in a breeze what stands before the backdrop lies elsewhere, but not all of the picture', () => {
  for (const index of [0, 2]) {
    expect(changed(index)).toBeGreaterThan(0.02)
    expect(changed(index)).toBeLessThan(0.6)
  }
})

test('the reference is taken in a calm, and so the truth is what it shows', () => {
  expect(breezy.reference).toBe(1)
  expect(changed(breezy.reference)).toBe(0)
  expect(breezy.truth().planes[1].data).toEqual(calm.truth().planes[1].data)
})

test('wind does not move the camera', () => {
  for (const index of [0, 1, 2]) expect(breezy.shoot(index).motion).toEqual(calm.shoot(index).motion)
})
