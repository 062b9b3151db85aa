import { createPlane } from '../raster'
import { isSafe, type Evidence } from './findings'

test('a frame is suggested only where it has most of the detail that the picture has there', () => {
  const noise = 1
  const evidence: Evidence = {
    grid: { across: 3, down: 2 },
    // A frame that is out of focus, one that is not, and one in between, over six cells.
    detail: [20, 80, 30].map((energy) => new Float32Array(6).fill(energy)),
    fused: new Float32Array(6).fill(100),
    noise,
    quarters: [],
    fusedQuarter: createPlane(1, 1),
  }
  const cells = { x: 1, y: 0, width: 2, height: 1 }
  // Far more is mended than lost, each time.
  const mended = 5000
  expect([0, 1, 2].map((frame) => isSafe(cells, frame, mended, evidence))).toEqual([false, true, false])
  // And where hardly anything is mended the sharp one is not suggested either.
  expect(isSafe(cells, 1, 10, evidence)).toBe(false)
})
