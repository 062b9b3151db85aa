import { IDENTITY } from '../raster'
import { WasmKernels } from '../raster/kernels'
import { STYLES } from '.'

const [WIDTH, HEIGHT] = [1200, 800]

/** Bytes a pixel that the kernels' memory has come to. */
const bytesOf = (kernels: WasmKernels) => kernels.buffer().byteLength / (WIDTH * HEIGHT)

test.each(Object.values(STYLES))('$name holds 38 bytes a pixel at the most, however many frames come', (style) => {
  const kernels = new WasmKernels()
  const accumulator = style.create({ width: WIDTH, height: HEIGHT, kernels })
  const samples = Uint16Array.from({ length: 3 * WIDTH * HEIGHT }, (_, i) => (i * 7919) % 65536)
  const frame = (index: number) => accumulator.add({ index, samples, motion: { ...IDENTITY, dx_px: 0.3 * index }, gain: 1 })
  frame(0)
  const first = bytesOf(kernels)
  for (let index = 1; index < 4; index++) frame(index)
  expect(bytesOf(kernels)).toBe(first)
  accumulator.finish()
  expect(bytesOf(kernels)).toBeLessThan(38)
  expect(first).toBeGreaterThan(30)
})

test('the second pass takes six bytes a pixel more', () => {
  const kernels = new WasmKernels()
  const accumulator = STYLES.auto.create({ width: WIDTH, height: HEIGHT, kernels, tuning: { finest: true } })
  const samples = new Uint8Array(3 * WIDTH * HEIGHT).fill(120)
  const frames = [0, 1, 2].map((index) => ({ index, samples, motion: IDENTITY, gain: 1 }))
  frames.forEach((frame) => accumulator.add(frame))
  const before = bytesOf(kernels)
  frames.forEach((frame) => accumulator.addAgain(frame))
  const { samples: out } = accumulator.finish()
  expect(bytesOf(kernels) - before).toBeLessThan(6.3)
  // And the picture is what all frames show.
  expect(out.every((value) => Math.abs(value - 120 * 257) <= 2)).toBe(true)
})
