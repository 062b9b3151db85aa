import * as fc from 'fast-check'
import { createPlane } from '../raster'
import { TwinKernels, WasmKernels, Workspace, type Kernels } from '../raster/kernels'
import { randomStream } from '../simulate'
import { evenedDepth, filledDepth, inMillimetres } from '.'

test('doubtful places take the depth of the sure ones around them, sure ones keep theirs', () => {
  const [depth, confidence] = [createPlane(64, 48), createPlane(64, 48)]
  for (let i = 0; i < depth.data.length; i++) {
    const inside = Math.hypot((i % 64) - 32, Math.floor(i / 64) - 24) < 9
    depth.data[i] = inside ? 9 : 3
    confidence.data[i] = inside ? 0.01 : 0.95
  }
  const filled = filledDepth(depth, confidence)
  expect(filled.data[24 * 64 + 32]).toBeGreaterThan(2.9)
  expect(filled.data[24 * 64 + 32]).toBeLessThan(3.6)
  expect(filled.data[2 * 64 + 2]).toBeCloseTo(3, 2)
})

test('places between frames become distances between theirs', () => {
  const depth = { width: 4, height: 1, data: Float32Array.from([0, 0.5, 2, 2.5]) }
  expect([...inMillimetres(depth, [1, 2, 4, 8]).data]).toEqual([1, 1.5, 4, 6])
})

describe('evened depth', () => {
  const space = (width: number, kernels: Kernels = new WasmKernels()) => new Workspace(kernels, width + 6)

  /** Two walls, at depths 3 and 8, known to about a third of a frame; in between a few places that nothing is known of. */
  function walls(width: number, height: number, seed: number) {
    const random = randomStream(seed)
    const [depth, confidence] = [createPlane(width, height), createPlane(width, height)]
    depth.data.forEach((_, i) => {
      const doubtful = random() < 0.1
      depth.data[i] = doubtful ? 12 * random() : (i % width < width / 2 ? 3 : 8) + 0.6 * (random() - 0.5)
      confidence.data[i] = doubtful ? 0 : 0.9
    })
    return { depth, confidence }
  }

  test('has less noise where the surface is even, and keeps the step to another', () => {
    const { depth, confidence } = walls(60, 40, 1)
    const { depth: evened } = evenedDepth(depth, confidence, space(60))
    const apart = (plane: typeof depth) => {
      const sure = [...plane.data.keys()].filter((i) => confidence.data[i] > 0.5)
      return Math.sqrt(sure.reduce((sum, i) => sum + (plane.data[i] - (i % 60 < 30 ? 3 : 8)) ** 2, 0) / sure.length)
    }
    expect(apart(depth)).toBeGreaterThan(0.15)
    expect(apart(evened)).toBeLessThan(0.05)
  })

  test('knows how much around agrees: all on a wall, about half right beside the step', () => {
    const { depth, confidence } = walls(60, 40, 2)
    const { agreement } = evenedDepth(depth, confidence, space(60))
    const mean = (column: number) => {
      const sure = Array.from({ length: 40 }, (_, y) => y * 60 + column).filter((i) => confidence.data[i] > 0.5)
      return sure.reduce((sum, i) => sum + agreement.data[i], 0) / sure.length
    }
    expect(mean(12)).toBeGreaterThan(0.9)
    for (const beside of [29, 30]) {
      expect(mean(beside)).toBeGreaterThan(0.45)
      expect(mean(beside)).toBeLessThan(0.65)
    }
  })

  test('is the same by the plain kernel, at every size', () => {
    const size = fc.record({ width: fc.integer({ min: 1, max: 30 }), height: fc.integer({ min: 1, max: 20 }), seed: fc.nat(1000) })
    fc.assert(
      fc.property(size, ({ width, height, seed }) => {
        const { depth, confidence } = walls(width, height, seed)
        const [plain, compiled] = [new TwinKernels(), new WasmKernels()].map((kernels) => evenedDepth(depth, confidence, space(width, kernels)))
        for (const map of ['depth', 'agreement'] as const)
          plain[map].data.forEach((value, i) => {
            const other = compiled[map].data[i]
            if (!(Math.abs(value - other) < 1e-4)) throw new Error(`${map} at place ${i}: ${other} and ${value}`)
          })
      }),
      { numRuns: 40 },
    )
  })
})
