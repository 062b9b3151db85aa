import { finish, proofSteps, spaceOf, type Step } from '@/core/finish'
import { TwinKernels } from '@/core/raster/kernels'
import { halved, Proving } from './proving'

const [width, height] = [24, 16]
const data = Uint16Array.from({ length: 3 * width * height }, (_, i) => (i * 7919) % 65536)
const depth = { width, height, data: Uint16Array.from({ length: width * height }, (_, i) => (i * 331) % 65536) }
const picture = { width, height, data, depth }
const full = { width: 48, height: 32 }
const tools = {
  kernels: new TwinKernels(),
  resize: async (samples: Uint16Array) => samples,
  words: async () => ({ width: 1, height: 1, data: new Uint8Array(1) }),
}
const fresh = async (steps: Step[]) => {
  const canvas = { samples: data.slice(), width, height, depth, space: spaceOf(), scale: 0.5 }
  return (await finish(canvas, proofSteps(steps, full, picture), tools)).samples
}

test('a step that is dragged gives what carrying all of them out anew gives, sample by sample', async () => {
  const proving = new Proving(picture, full, tools)
  const steps = (stops: number): Step[] => [
    { do: 'crop', x: 4, y: 4, width: 40, height: 24 },
    { do: 'light', stops: 0.4 },
    { do: 'depthGradient', from: 0.1, to: 0.9, stops },
    { do: 'colour', strength: 1.2 },
  ]
  for (const stops of [-1, -0.9, -0.5, 0.3, 0.3, -1]) {
    const { samples } = await proving.prove(steps(stops))
    const wanted = await fresh(steps(stops))
    expect(samples).toEqual(wanted)
  }
  // Fewer steps, and others in their place.
  for (const other of [steps(1).slice(0, 1), steps(1).slice(1), []]) expect((await proving.prove(other)).samples).toEqual(await fresh(other))
})

test('half the size has the means of four, and every second place of the depth', () => {
  const half = halved(picture)
  expect([half.width, half.height]).toEqual([12, 8])
  const at = (x: number, y: number, c: number) => data[3 * (y * width + x) + c]
  const mean = (x: number, y: number, c: number) =>
    (at(2 * x, 2 * y, c) + at(2 * x + 1, 2 * y, c) + at(2 * x, 2 * y + 1, c) + at(2 * x + 1, 2 * y + 1, c)) / 4
  for (const [x, y, c] of [
    [0, 0, 0],
    [5, 3, 1],
    [11, 7, 2],
  ])
    expect(Math.abs(half.data[3 * (y * 12 + x) + c] - mean(x, y, c))).toBeLessThanOrEqual(0.5)
  expect(half.depth!.data[3 * 12 + 5]).toBe(depth.data[6 * width + 10])
  expect(half.confidence).toBeUndefined()
})

test('light is counted in half stops, the most being 1', async () => {
  const white = { width, height, data: new Uint16Array(3 * width * height).fill(65535) }
  const light = await new Proving(white, full, tools).lightAfter([{ do: 'light', stops: -1.25 }])
  expect(light.indexOf(1)).toBe(24 - 3)
  expect(light.reduce((sum, part) => sum + part, 0)).toBe(1)
})
