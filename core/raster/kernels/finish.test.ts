import * as fc from 'fast-check'
import { both, fill, size } from './testKernels'
import { operationWords, type Operation, type Workspace } from '.'

const floats = (space: Workspace, values: ArrayLike<number>) => {
  const at = space.bytes(4 * values.length)
  new Float32Array(space.kernels.buffer(), at, values.length).set(Float32Array.from(values))
  return at
}
const wholes = (space: Workspace, length: number, value: (i: number) => number) => {
  const at = space.bytes(2 * length)
  new Uint16Array(space.kernels.buffer(), at, length).set(Uint16Array.from({ length }, (_, i) => value(i)))
  return at
}
/** Light as a power of the sample, none of it below what the kernel takes for black, and back by pieces of the first bits. */
const LIGHT = Float32Array.from({ length: 65536 }, (_, i) => (i / 65535) ** 1.8)
const BACK = Float32Array.from({ length: (31 << 8) + 1 }, (_, k) => {
  const bits = new Uint32Array([((96 << 8) + k) << 15])
  return 65535 * new Float32Array(bits.buffer)[0] ** (1 / 1.8)
})
const table = (steps: number, seed: number) => Array.from({ length: steps + 2 }, (_, k) => 0.8 + 0.5 * Math.sin((k * seed) / 300_000))

/** Whole numbers of two kernels that differ by one at the most: one rounds what the other has a hair below. */
function expectNear([twin, compiled]: number[][]) {
  expect(compiled).toHaveLength(twin.length)
  twin.forEach((value, i) => {
    if (!(Math.abs(value - compiled[i]) <= 1)) throw new Error(`place ${i}: ${compiled[i]} and ${value}`)
  })
}

const facts = fc.record({ ...size, count: fc.integer({ min: 0, max: 6 }), top: fc.integer({ min: 0, max: 50 }) })

test('light, operations and back are the same in both; none at all changes nothing', () => {
  fc.assert(
    fc.property(facts, ({ width, height, seed, count, top }) => {
      const result = both('finishRows', width, (space) => {
        const samples = wholes(space, 3 * width * height, (i) => (i * (977 + seed) + (i % 7) * 9001) % 65536)
        const [light, back] = [floats(space, LIGHT), floats(space, BACK)]
        const all: Operation[] = [
          { kind: 'scale', red: 1.3, green: 0.7, blue: 1 },
          { kind: 'tones', table: floats(space, table(4096, seed + 3)) },
          { kind: 'colour', strength: 1.4 },
          { kind: 'fade', table: floats(space, table(1024, seed + 5)), start: -0.3, across: 0.04, down: 0.02 },
          {
            kind: 'fadeByMap',
            table: floats(space, table(1024, 7)),
            map: wholes(space, width * height, (i) => i * 331),
            start: 0.2,
            across: 1 / 65535,
          },
          { kind: 'gains', map: floats(space, table(width * height, 11)), x: 0, y: top + 1, width: Math.max(1, width - 2), height: 4 },
        ]
        const words = floats(space, new Float32Array(operationWords(all.slice(0, count), [0.25, 0.65, 0.1])))
        const out = { at: samples, width: 3 * width, height, stride: 3 * width, bytes: 2 } as const
        return { args: [samples, width, top, light, back, words, count, 0], rows: height, out: [out] }
      })
      expectNear(result)
      if (count === 0) result[1].forEach((value, i) => expect(value).toBe((i * (977 + seed) + (i % 7) * 9001) % 65536))
    }),
    { numRuns: 60 },
  )
})

test('light is written in full where it is asked for, beyond white too', () => {
  const [twin, compiled] = both('finishRows', 5, (space) => {
    const samples = wholes(space, 3 * 5 * 3, (i) => i * 1400)
    const lights = { ...space.plane(3 * 5, 3), stride: 15 }
    const words = floats(space, new Float32Array(operationWords([{ kind: 'scale', red: 8, green: 8, blue: 8 }], [0.2, 0.7, 0.1])))
    return { args: [samples, 5, 0, floats(space, LIGHT), floats(space, BACK), words, 1, lights.at], rows: 3, out: [lights] }
  })
  compiled.forEach((value, i) => expect(value).toBeCloseTo(8 * ((i * 1400) / 65535) ** 1.8, 5))
  expect(twin).toEqual(compiled)
})

test('luminance and sharpening are the same in both, with a map and without', () => {
  fc.assert(
    fc.property(fc.record({ ...size, sure: fc.boolean() }), ({ width, height, seed, sure }) => {
      const samples = (space: Workspace) => wholes(space, 3 * width * height, (i) => (i * (1301 + seed)) % 65536)
      const [plain, compiledPlain] = both('luminance', width, (space) => {
        const out = space.plane(width, height)
        return { args: [samples(space), width, 0.2, 0.7, 0.1, out.at, out.stride], rows: height, out: [out] }
      })
      plain.forEach((value, i) => expect(compiledPlain[i]).toBeCloseTo(value, 5))
      expectNear(
        both('sharpenRows', width, (space) => {
          const at = samples(space)
          const [luma, soft] = [fill(space, width, height, seed), fill(space, width, height, seed + 1)]
          const map = sure ? wholes(space, width * height, (i) => (i * 7919) % 65536) : 0
          const out = { at, width: 3 * width, height, stride: 3 * width, bytes: 2 } as const
          return { args: [at, width, luma.at, soft.at, luma.stride, 0.8, 0.05, map], rows: height, out: [out] }
        }),
      )
    }),
    { numRuns: 60 },
  )
})
