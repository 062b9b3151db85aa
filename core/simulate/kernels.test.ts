import * as fc from 'fast-check'
import { IDENTITY } from '../raster'
import { TwinKernels, WasmKernels } from '../raster/kernels'
import { viewAt, type CameraSetup } from './camera'
import { exposeLens } from './exposeLens'
import { randomStream } from './random'
import { sampleScene } from './sampled'
import type { Layer, Scene } from './scene'

const camera: CameraSetup = { sensorWidth_mm: 36, width_px: 54, height_px: 37, focalLength_mm: 60, fNumber: 2.8, magnification: 0.6, mover: 'rail' }

/** A slanting surface of uneven colour; only the backdrop has no holes. */
function slope(z: number, slant: number, backdrop: boolean, seed: number): Layer {
  const depthAt = (x: number, y: number) => z + slant * (x + 0.4 * y)
  return {
    backdrop,
    bounds: { left: -40, right: 40, top: -30, bottom: 30, near: z - 60 * Math.abs(slant), far: z + 60 * Math.abs(slant) + 1e-6 },
    depthAt,
    see(x, y, _texel, sight) {
      const random = randomStream(Math.floor(x * 3) * 131 + Math.floor(y * 3) * 17 + seed)
      if (!backdrop && random() < 0.5) return false
      Object.assign(sight, { z: depthAt(x, y), red: random(), green: random(), blue: random(), alpha: 1 })
      return true
    },
  }
}

const facts = fc.record({
  seed: fc.integer({ min: 0, max: 1000 }),
  far: fc.double({ min: 20, max: 90, noNaN: true }),
  near: fc.double({ min: -20, max: 10, noNaN: true }),
  slant: fc.double({ min: -0.3, max: 0.3, noNaN: true }),
  focus: fc.double({ min: -5, max: 30, noNaN: true }),
  turn: fc.double({ min: -0.04, max: 0.04, noNaN: true }),
  drift: fc.double({ min: -3, max: 3, noNaN: true }),
  cut: fc.boolean(),
  sharp: fc.boolean(),
})

test('a picture by the compiled kernels is that of the plain ones, from sharp to very blurred, turned, cut and carried by wind', () => {
  // Both are used again and again: what an earlier picture left in their memory must not show.
  const [plain, compiled] = [new TwinKernels(), new WasmKernels()]
  fc.assert(
    fc.property(facts, ({ seed, far, near, slant, focus, turn, drift, cut, sharp }) => {
      const scene: Scene = { depth_mm: 100, layers: [slope(far, slant, true, seed), slope(near, -slant, false, seed + 1)] }
      const sampled = sampleScene(scene, camera, viewAt(camera, 0, 0, IDENTITY))
      const view = viewAt(camera, focus, 0, { scale: 1.01, rotation_rad: turn, dx_px: 2.5, dy_px: -1 })
      const window = cut ? { x: 9, y: 5, width: 31, height: 20 } : undefined
      const [a, b] = [plain, compiled].map((kernels) => exposeLens(sampled, camera, view, { kernels, sharp, window, drift: (k) => [k * drift, 0] }))
      expect(b.width).toBe(window?.width ?? camera.width_px)
      a.planes.forEach(({ data }, c) =>
        data.forEach((value, i) => {
          if (!(Math.abs(value - b.planes[c].data[i]) < 2e-4)) throw new Error(`channel ${c}, place ${i}: ${b.planes[c].data[i]} and ${value}`)
        }),
      )
      // The backdrop fills the picture, so light arrives everywhere that the scene is seen.
      expect(a.planes[0].data.some((value) => value > 0.1)).toBe(true)
    }),
    { numRuns: 40 },
  )
})
