import { insetAt, type Step } from '.'
import { canvas, done, pixel } from './testCanvas'

const full = { width: 400, height: 300 }
const size = { width: 40, height: 30 }

test('a part of a cropped picture lies where the crop puts it', () => {
  const crop: Step = { do: 'crop', x: 50, y: 20, width: 200, height: 200 }
  expect(insetAt([crop], full, [100, 100], size)).toEqual({ source: { x: 130, y: 105, width: 40, height: 30 }, scale: 1, steps: [] })
})

test('of a smaller picture more is shown, of a larger one less; steps that belong to places are left out', () => {
  const light: Step = { do: 'light', stops: 1 }
  const steps: Step[] = [light, { do: 'gradient', from: [0, 0], to: [9, 9], stops: 1 }, { do: 'size', long_px: 200 }]
  const inset = insetAt(steps, full, [100, 75], size)
  expect(inset).toMatchObject({ scale: 0.5, steps: [light] })
  expect(inset.source).toEqual({ x: 161, y: 121, width: 80, height: 60 })
  expect(insetAt([{ do: 'size', long_px: 800 }], full, [400, 300], size).source).toMatchObject({ width: 20, height: 15 })
})

test('it stays within the picture, and follows a turn', async () => {
  expect(insetAt([], full, [399, 0], size).source).toEqual({ x: 360, y: 0, width: 40, height: 30 })
  // A picture with one bright place is turned; the part about that place, as it lies now, comes from where it lay.
  const turn: Step = { do: 'straighten', degrees: 12 }
  const picture = canvas(400, 300, (x, y) => (Math.hypot(x - 260, y - 90) < 3 ? 60_000 : 9000))
  const turned = await done(picture, turn)
  let bright: [number, number] = [0, 0]
  for (let y = 0; y < turned.height; y++) for (let x = 0; x < turned.width; x++) if (pixel(turned, x, y)[0] > 50_000) bright = [x, y]
  const { source } = insetAt([turn], full, bright, size)
  expect(Math.hypot(source.x + 20 - 260, source.y + 15 - 90)).toBeLessThan(5)
})
