import * as fc from 'fast-check'
import { both, expectAlike, fill, size, type Call } from './testKernels'
import type { Workspace } from '.'

function listed(space: Workspace, values: number[]): number {
  const at = space.bytes(values.length * 4)
  new Float32Array(space.kernels.buffer(), at, values.length).set(values)
  return at
}

const counts = fc.record({ ...size, reach: fc.integer({ min: 0, max: 6 }) })

test('softening along rows and columns is the same in both, wider than the picture too', () => {
  fc.assert(
    fc.property(counts, ({ width, height, seed, reach }) => {
      const taps = Array.from({ length: 2 * reach + 1 }, (_, k) => 1 / (1 + Math.abs(k - reach)))
      const call =
        (along: boolean) =>
        (space: Workspace): Call => {
          const [source, out] = [fill(space, width, height, seed), space.plane(width, height)]
          const weights = [listed(space, taps), taps.length]
          return { args: [source.at, out.at, source.stride, along ? width : height, ...weights], rows: height, out: [out] }
        }
      expectAlike(both('softenAlong', width, call(true)))
      expectAlike(both('softenDown', width, call(false)))
    }),
    { numRuns: 60 },
  )
})

test('developing is the same in both for any seed, from black to far beyond white', () => {
  const facts = fc.record({
    ...size,
    state: fc.integer({ min: 0, max: 2 ** 32 - 1 }),
    index: fc.integer({ min: 0, max: 20_000_000 }),
    gain: fc.nat(40_000),
  })
  const normal = Array.from({ length: 65_536 }, (_, k) => (k / 65_536 - 0.5) * 6)
  const encoded = Array.from({ length: 4098 }, (_, k) => Math.sqrt(k / 4096))
  fc.assert(
    fc.property(facts, ({ width, height, seed, state, index, gain }) => {
      const made = both('develop', width, (space) => {
        const plane = fill(space, width, height, seed)
        return {
          args: [plane.at, plane.stride, width, gain, 4, 15_000, state, index, listed(space, normal), listed(space, encoded)],
          rows: height,
          out: [plane],
        }
      })
      // Rounding a value of 15 000 photons in f32 is a few parts in ten million; its root near black magnifies that.
      expectAlike(made, 2e-5)
    }),
    { numRuns: 60 },
  )
})
