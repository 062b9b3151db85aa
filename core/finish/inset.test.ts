import { finish, greyByColour, insetAt, type Place, type Step } from '.'
import { canvas, done, pixel, TOOLS } from './testCanvas'

const full = { width: 400, height: 300 }
const size = { width: 40, height: 30 }

test('a part of a cropped picture lies where the crop puts it', () => {
  const crop: Step = { do: 'crop', x: 50, y: 20, width: 200, height: 200 }
  expect(insetAt([crop], full, [100, 100], size)).toEqual({ source: { x: 130, y: 105, width: 40, height: 30 }, scale: 1, steps: [], at: [20, 15] })
})

test('of a smaller picture more is shown, of a larger one less; places are those of the part', () => {
  const light: Step = { do: 'light', stops: 1 }
  const steps: Step[] = [light, { do: 'gradient', from: [161, 0], to: [201, 0], stops: 1 }, { do: 'size', long_px: 200 }]
  const inset = insetAt(steps, full, [100, 75], size)
  expect(inset.source).toEqual({ x: 161, y: 121, width: 80, height: 60 })
  expect(inset).toMatchObject({ scale: 0.5, steps: [light, { do: 'gradient', from: [-0.25, -60.75], to: [19.75, -60.75] }] })
  expect(insetAt([{ do: 'size', long_px: 800 }], full, [400, 300], size).source).toMatchObject({ width: 20, height: 15 })
})

/** A picture of soft shapes with a coloured corner, and its maps. */
const picture = () =>
  canvas(400, 300, (x, y, c) => (x < 40 && y < 40 ? [30_000, 20_000, 14_000][c] : 22_000 + 9000 * Math.sin(x / 31 + c) * Math.cos(y / 23)), {
    depth: { ...full, data: Uint16Array.from({ length: 400 * 300 }, (_, i) => 160 * (i % 400)) },
  })
const partOf = async ({ x, y, width, height }: { x: number; y: number; width: number; height: number }) =>
  done(picture(), { do: 'crop', x, y, width, height })

test.each<[string, Step[]]>([
  [
    'a line of light, a stroke and the depth',
    [
      { do: 'crop', x: 50, y: 20, width: 300, height: 250 },
      { do: 'gradient', from: [60, 40], to: [200, 160], stops: -1.2 },
      {
        do: 'local',
        path: [
          [120, 90],
          [150, 130],
        ],
        radius_px: 40,
        softness: 0.7,
        stops: 0.9,
      },
      { do: 'local', path: [[280, 230]], radius_px: 20, softness: 0.7, stops: 3 },
      { do: 'local', path: [[130, 110]], radius_px: 40, softness: 0.2, stops: -0.5, gate: { near: 0.45, far: 1 } },
      { do: 'depthGradient', from: 0.3, to: 0.7, stops: 0.6 },
    ],
  ],
  [
    'a place that becomes grey, far from the part, after others',
    [
      { do: 'gradient', from: [0, 0], to: [300, 0], stops: 0.8 },
      { do: 'neutral', at: [20, 20], radius_px: 6 },
      { do: 'neutral', at: [390, 290], radius_px: 3 },
      { do: 'colour', strength: 1.3 },
    ],
  ],
])('%s: the part is what the whole has there, sample by sample', async (_, steps) => {
  const whole = await done(picture(), ...steps)
  const at: Place = [130, 110]
  const inset = insetAt(await greyByColour(steps, full, partOf, TOOLS), full, at, size)
  const part = await finish(await partOf(inset.source), inset.steps, TOOLS)
  const [left, top] = [at[0] - inset.at[0], at[1] - inset.at[1]]
  let worst = 0
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++)
      pixel(part, x, y).forEach((value, c) => (worst = Math.max(worst, Math.abs(value - pixel(whole, left + x, top + y)[c]))))
  // Less than a level of 8 bits.
  expect(worst).toBeLessThan(257)
  // And the steps do something there.
  expect(pixel(part, 20, 15)).not.toEqual(pixel(await partOf(inset.source), 20, 15))
})

test('black that should be grey changes nothing', async () => {
  const black = async () => canvas(9, 9, () => 0)
  const [card] = await greyByColour([{ do: 'neutral', at: [4, 4], radius_px: 4 }], full, black, TOOLS)
  const grey = canvas(4, 4, () => 30_000)
  expect((await done(grey, card)).samples.every((sample) => Math.abs(sample - 30_000) < 60)).toBe(true)
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
