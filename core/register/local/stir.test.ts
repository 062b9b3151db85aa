import { createPlane, IDENTITY, luma, smooth, type Plane, type Similarity } from '../../raster'
import { SimulatedSeries, type SeriesRequest } from '../../simulate'
import { closeUp } from '../../simulate/testRequests'
import { PairRegistrar, Preparer } from '..'
import { STIRRED, stirredShare } from '.'

const preparer = new Preparer()

/** The share that moved from each frame of a small simulated series to the next. */
function sharesOf(more: Partial<SeriesRequest> = {}, mover: 'ring' | 'rail' = 'ring'): number[] {
  const series = new SimulatedSeries(
    closeUp(
      { seed: 5, positions_mm: [3, 3.8, 4.6, 5.4], unsteadiness: { shift_px: 1, rotation_deg: 0.06, exposure_ev: 0.04 }, ...more },
      { width_px: 480, height_px: 320, mover },
    ),
  )
  return sharesIn(series)
}

function sharesIn(series: SimulatedSeries, width_px = 480): number[] {
  const frames = Array.from({ length: series.count }, (_, k) => preparer.fromLuma(luma(series.shoot(k).picture)))
  const pairs = new PairRegistrar()
  return frames.slice(1).map((frame, k) => stirredShare(frames[k], frame, pairs.register(frames[k], frame, width_px).motion, width_px))
}

test('where all stands still nothing is said to move, whatever the blur and the unsteady hand', () => {
  expect(Math.max(...sharesOf())).toBeLessThan(STIRRED / 2)
})

test('nor where the whole picture was bumped, or comes nearer on a rail', () => {
  expect(Math.max(...sharesOf({ faults: [{ kind: 'bump', frame: 2, shift_percent: 3 }] }))).toBeLessThan(STIRRED)
  expect(Math.max(...sharesOf({}, 'rail'))).toBeLessThan(STIRRED)
})

test('nor where most is smooth or far out of focus, and shows noise', () => {
  const camera = { magnification: 0.5, fNumber: 5.6, focalLength_mm: 100 }
  for (const mover of ['ring', 'rail'] as const) {
    const series = new SimulatedSeries(
      closeUp(
        { scene: 'bowl', seed: 53, positions_mm: [0, 2.6, 5.2, 7.8, 10.4, 13, 15.6, 18.2] },
        { ...camera, width_px: 720, height_px: 480, mover },
      ),
    )
    expect(Math.max(...sharesIn(series, 720))).toBeLessThan(STIRRED)
  }
})

test('a breeze is found in every pair', () => {
  expect(Math.min(...sharesOf({ breeze_mm: 0.4 }))).toBeGreaterThan(2 * STIRRED)
})

/** Two patches of waves: the camera moves both, and the left one moved besides. */
function patches(camera: Similarity, own_px: number): Plane {
  const plane = createPlane(480, 320)
  for (let y = 0; y < 320; y++) {
    for (let x = 0; x < 480; x++) {
      const moved = x < 96 ? own_px : 0
      const [u, v] = [x - camera.dx_px - moved, y - camera.dy_px]
      plane.data[y * 480 + x] = 0.5 + 0.2 * Math.sin(u * 0.5 + v * 0.1) + 0.2 * Math.cos(v * 0.45 - u * 0.12)
    }
  }
  return smooth(plane)
}

test('the share is that of the picture that moved', () => {
  const camera = { ...IDENTITY, dx_px: 3, dy_px: -2 }
  const [before, after] = [patches(IDENTITY, 0), patches(camera, 2)].map((plane) => preparer.fromLuma(plane))
  const share = stirredShare(before, after, camera, 480)
  expect(share).toBeGreaterThan(0.15)
  expect(share).toBeLessThan(0.25)
})

test('of a picture in which nothing is to be seen nothing moved', () => {
  const even = createPlane(480, 320)
  even.data.fill(0.4)
  expect(stirredShare(preparer.fromLuma(even), preparer.fromLuma(even), IDENTITY, 480)).toBe(0)
})
