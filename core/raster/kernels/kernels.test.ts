import * as fc from 'fast-check'
import { cubicTaps } from '../warp'
import { EXPAND, TwinKernels, WasmKernels, Workspace, type KernelName, type Kernels } from '.'

/** Runs one kernel in both, on the same planes, and answers what each made. */
function both(
  name: KernelName,
  rows: number,
  prepare: (space: Workspace) => { args: number[]; out: { at: number; width: number; height: number }[] },
) {
  return [new TwinKernels(), new WasmKernels()].map((kernels: Kernels) => {
    const space = new Workspace(kernels)
    const { args, out } = prepare(space)
    kernels.run(name, args, rows)
    return out.flatMap((slab) => [...space.view(slab)])
  })
}

function fill(space: Workspace, width: number, height: number, seed: number) {
  const slab = space.plane(width, height)
  let state = seed + 1
  space.view(slab).forEach((_, i, data) => (data[i] = ((state = (state * 16807) % 2147483647) % 1000) / 1000))
  return slab
}

function expectAlike([twin, compiled]: number[][]) {
  expect(compiled).toHaveLength(twin.length)
  twin.forEach((value, i) => {
    if (Math.abs(compiled[i] - value) > 2e-6 * Math.max(1, Math.abs(value))) throw new Error(`place ${i}: ${compiled[i]} and ${value}`)
  })
}

const size = { width: fc.integer({ min: 1, max: 41 }), height: fc.integer({ min: 1, max: 23 }), seed: fc.integer({ min: 0, max: 1000 }) }
const everySize = (check: (facts: { width: number; height: number; seed: number }) => void) =>
  fc.assert(fc.property(fc.record(size), check), { numRuns: 60 })

describe('the compiled kernels do what the plain ones do, at every size', () => {
  test('reduce', () =>
    everySize(({ width, height, seed }) => {
      const half = (width + 1) >> 1
      expectAlike(
        both('reduceRows', height, (space) => {
          const out = space.plane(half, height)
          return { args: [fill(space, width, height, seed).at, width, out.at], out: [out] }
        }),
      )
      const rows = (height + 1) >> 1
      expectAlike(
        both('reduceColumns', rows, (space) => {
          const out = space.plane(width, rows)
          return { args: [fill(space, width, height, seed).at, width, height, out.at], out: [out] }
        }),
      )
    }))

  test('expand, in each of its ways', () =>
    everySize(({ width, height, seed }) => {
      const half = (width + 1) >> 1
      expectAlike(
        both('expandRows', height, (space) => {
          const out = space.plane(width, height)
          return { args: [fill(space, half, height, seed).at, half, out.at, width], out: [out] }
        }),
      )
      for (const mode of Object.values(EXPAND)) {
        const coarse = (height + 1) >> 1
        expectAlike(
          both('expandColumns', height, (space) => {
            const [rows, other, out] = [fill(space, width, coarse, seed), fill(space, width, height, seed + 1), fill(space, width, height, seed + 2)]
            return { args: [rows.at, coarse, other.at, out.at, width, mode, 0.3], out: [out] }
          }),
        )
      }
    }))

  test('smooth', () =>
    everySize(({ width, height, seed }) => {
      for (const [name, tall] of [
        ['smoothRows', false],
        ['smoothColumns', true],
      ] as const)
        expectAlike(
          both(name, height, (space) => {
            const [source, out] = [fill(space, width, height, seed), space.plane(width, height)]
            return { args: tall ? [source.at, width, height, out.at] : [source.at, width, out.at], out: [out] }
          }),
        )
    }))

  test('weights and sums', () =>
    everySize(({ width, height, seed }) => {
      const three = (space: Workspace) => [0, 1, 2, 3].map((k) => fill(space, width, height, seed + k))
      expectAlike(
        both('addSquares', height, (space) => {
          const [a, b] = three(space)
          return { args: [a.at, b.at, width, seed % 2], out: [b] }
        }),
      )
      expectAlike(
        both('add', height, (space) => {
          const [a, b] = three(space)
          return { args: [a.at, b.at, width], out: [b] }
        }),
      )
      expectAlike(
        both('raise', height, (space) => {
          const [a] = three(space)
          return { args: [a.at, width, 2.5, 4], out: [a] }
        }),
      )
      expectAlike(
        both('addWeighted', height, (space) => {
          const [a, b, c] = three(space)
          return { args: [a.at, b.at, c.at, width], out: [c] }
        }),
      )
      expectAlike(
        both('choose', height, (space) => {
          const [a, b, c, d] = three(space)
          return { args: [a.at, b.at, c.at, d.at, width, 7], out: [b, c, d] }
        }),
      )
    }))

  test.each([Uint8Array, Uint16Array])('warp of %p, turned, scaled and moved', (Kind) => {
    const most = Kind === Uint8Array ? 255 : 65535
    fc.assert(
      fc.property(
        fc.record({ ...size, dx: fc.double({ min: -9, max: 9, noNaN: true }), turn: fc.double({ min: -0.02, max: 0.02, noNaN: true }) }),
        ({ width, height, seed, dx, turn }) => {
          expectAlike(
            both('warpSamples', height, (space) => {
              const taps = cubicTaps()
              const tapsAt = space.bytes(taps.byteLength)
              const buffers = space.bytes((width + 24) * 16 * 4)
              const at = space.bytes(width * height * 3 * Kind.BYTES_PER_ELEMENT + 64)
              const out = [space.plane(width, height), space.plane(width, height), space.plane(width, height)]
              new Float32Array(space.kernels.buffer(), tapsAt, taps.length).set(taps)
              new Kind(space.kernels.buffer(), at, width * height * 3).forEach((_, i, data) => (data[i] = (i * 7919 + seed * 31) % (most + 1)))
              const args = [
                at,
                Number(most > 255),
                ...out.map((slab) => slab.at),
                width,
                height,
                1.01 * Math.cos(turn),
                1.01 * Math.sin(turn),
                dx,
                -dx / 2,
                1 / most,
                tapsAt,
                buffers,
                1,
              ]
              return { args, out }
            }),
          )
        },
      ),
      { numRuns: 60 },
    )
  })
})
