import { SimulatedSeries, type SeriesRequest } from '.'

const request: SeriesRequest = {
  scene: 'bristles',
  seed: 2,
  camera: { sensorWidth_mm: 36, width_px: 240, height_px: 160, focalLength_mm: 100, fNumber: 8, magnification: 1, mover: 'ring' },
  positions_mm: [0, 3, 6],
  unsteadiness: { shift_px: 0, rotation_deg: 0, exposure_ev: 0 },
  fullWell: 30_000,
}
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
