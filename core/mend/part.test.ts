import { cutPart, Mender, seenBy, type PaintEdit } from '.'
import { WasmKernels } from '../raster/kernels'

test('a part healed by itself is healed as in the whole picture', () => {
  const [width, height] = [300, 220]
  const samples = Uint16Array.from({ length: 3 * width * height }, (_, i) => {
    const [x, y] = [Math.floor(i / 3) % width, Math.floor(i / 3 / width)]
    return 30000 + 12000 * Math.sin(0.4 * x + 0.1 * y) + 9000 * Math.sin(0.07 * x * (i % 3)) + ((i * 7919) % 2000)
  })
  const edit: PaintEdit = {
    id: 'a',
    kind: 'heal',
    path: [
      [173.5, 113.5],
      [178.5, 115.015625],
      [186.25, 117],
    ],
    radius_px: 24,
    softness: 0.4,
    opacity: 1,
  }
  const kernels = new WasmKernels()
  const whole = new Mender(samples.slice(), width, height, kernels)
  whole.heal(edit)
  const part = seenBy(edit, width, height)
  const alone = new Mender(cutPart(samples, width, part), part.width, part.height, kernels)
  alone.heal({ ...edit, path: edit.path.map(([x, y]) => [x - part.x, y - part.y]) })
  const there = cutPart(whole.samples, width, part)
  let worst = 0
  alone.samples.forEach((value, i) => (worst = Math.max(worst, Math.abs(value - there[i]))))
  expect(part).not.toEqual({ x: 0, y: 0, width, height })
  expect(worst).toBe(0)
})
