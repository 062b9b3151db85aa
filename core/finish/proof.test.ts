import { proofSteps, shapeAfter, stepText, type Step } from '.'
import { canvas, done, pixel } from './testCanvas'

/** A recipe with places, lengths and two changes of shape. */
const STEPS: Step[] = [
  { do: 'light', stops: 0.4 },
  { do: 'gradient', from: [40, 10], to: [40, 150], stops: -1.2 },
  { do: 'straighten', degrees: 3 },
  { do: 'crop', x: 20, y: 30, width: 180, height: 120 },
  { do: 'local', path: [[60, 50], [120, 70]], radius_px: 24, softness: 0.6, stops: 0.8 }, // prettier-ignore
  { do: 'size', long_px: 900 },
  { do: 'light', stops: -2, off: true },
]
/** A soft picture: what is small shows the same. */
const soft = (times: number) => canvas(240 * times, 180 * times, (x, y, c) => 24_000 + 9000 * Math.sin(x / times / 21 + c) * Math.cos(y / times / 17))

test('shapes follow the steps, without those that are switched off', () => {
  expect(shapeAfter(STEPS, { width: 240, height: 180 })).toEqual({ width: 900, height: 600 })
  expect(shapeAfter([{ do: 'crop', x: 0, y: 0, width: 3, height: 2, off: true }], { width: 9, height: 7 })).toEqual({ width: 9, height: 7 })
})

test('a proof, a quarter as wide, looks as the whole picture does', async () => {
  const steps = STEPS.filter(({ do: name }) => name !== 'size')
  const whole = await done(soft(4), ...proofSteps(steps, { width: 240, height: 180 }, { width: 960, height: 720 }))
  const small = await done(soft(1), ...proofSteps(STEPS, { width: 240, height: 180 }, { width: 240, height: 180 }))
  expect([small.width, small.height]).toEqual([180, 120])
  // To the pixel or two: what is turned and cut is so by whole pixels of its own.
  const times = [whole.width / 180, whole.height / 120]
  for (const each of times) expect(Math.abs(each - 4)).toBeLessThan(0.03)
  let worst = 0
  for (let y = 3; y < 117; y += 3)
    for (let x = 3; x < 177; x += 3)
      pixel(small, x, y).forEach(
        (value, c) =>
          (worst = Math.max(worst, Math.abs(value - pixel(whole, Math.floor((x + 0.5) * times[0]), Math.floor((y + 0.5) * times[1]))[c]) / 257)),
      )
  expect(worst).toBeLessThanOrEqual(2)
})

test('each step says what it does', () => {
  expect(STEPS.map(stepText)).toEqual([
    '0.4 stops lighter',
    '1.2 stops darker along a line',
    'Turn 3° to the right',
    'Crop to 3 : 2',
    '0.8 stops lighter by hand',
    '900 px long',
    '2 stops darker',
  ])
  expect(stepText({ do: 'tones', points: [[-6, -5.4], [-2, -2], [0, 0]] })).toBe('6 below white: 0.6 stops lighter') // prettier-ignore
  expect(stepText({ do: 'depthGradient', from: 1, to: 0.5, stops: -0.5 })).toBe('0.5 stops darker at the back, as far as 50 % of the depth')
  expect(stepText({ do: 'scaleBar', pixel_mm: 0.01, length_mm: 0.5 })).toBe('Scale bar of 500 µm')
})
