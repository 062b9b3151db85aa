import { blurred, createPlane } from '../raster'
import { Planes, TwinKernels, WasmKernels } from '../raster/kernels'
import { Narrowing, WIDE } from './narrowing'

/** Waves so many px long, of one height each. */
function waves(width: number, height: number, lengths_px: number[]) {
  const plane = createPlane(width, height)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) plane.data[i] = lengths_px.reduce((sum, length) => sum + Math.sin((2 * Math.PI * (x + 0.6 * y)) / length), 0)
  return plane
}

test.each([
  [640, 427, 'twice'],
  [110, 74, 'once'],
  [48, 40, 'never'],
])('a picture %d × %d, halved %s%s to tell what is wide, loses what a Gaussian takes', (width, height) => {
  const plane = waves(width, height, [width / 3, width / 11, 7])
  const told = new Narrowing(new Planes(new WasmKernels(), width, height)).of(plane)
  const wide = blurred(plane, WIDE * width)
  let [apart, most] = [0, 0]
  // Beside the edges: there each way repeats in its own manner.
  const edge = Math.ceil(2 * WIDE * width) + 2
  for (let y = edge; y < height - edge; y++)
    for (let x = edge, i = y * width + edge; x < width - edge; x++, i++) {
      apart = Math.max(apart, Math.abs(told.data[i] - (plane.data[i] - wide.data[i])))
      most = Math.max(most, Math.abs(plane.data[i]))
    }
  expect(most).toBeGreaterThan(1.5)
  expect(apart).toBeLessThan(0.06)
})

test('the plain kernels tell the same', () => {
  const plane = waves(301, 77, [90, 20, 6])
  const [plain, compiled] = [new TwinKernels(), new WasmKernels()].map((kernels) => new Narrowing(new Planes(kernels, 301, 77)).of(plane).data)
  expect(Math.max(...plain.map((value, i) => Math.abs(value - compiled[i])))).toBeLessThan(1e-5)
})
