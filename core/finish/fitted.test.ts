import { AS_IT_IS, fittedRecipe, shapeAfter, type Recipe, type Step } from '.'
import { canvas, done, pixel } from './testCanvas'

const MADE = { width: 240, height: 180, pixel_mm: 0.02 }
const recipe = (...steps: Step[]): Recipe => ({ ...AS_IT_IS, steps, for: MADE })
const PLACES: Step[] = [
  { do: 'neutral', at: [30, 30], radius_px: 4 },
  { do: 'gradient', from: [40, 10], to: [40, 150], stops: -1.2 },
  { do: 'straighten', degrees: 3 },
  { do: 'crop', x: 20, y: 30, width: 180, height: 120 },
  { do: 'local', path: [[60, 50], [120, 70]], radius_px: 24, softness: 0.6, stops: 0.8 }, // prettier-ignore
]
const soft = (times: number) => canvas(240 * times, 180 * times, (x, y, c) => 24_000 + 9000 * Math.sin(x / times / 21 + c) * Math.cos(y / times / 17))

test('on a picture three times as large it does the same, place by place', async () => {
  const fitted = fittedRecipe(recipe(...PLACES), { width: 720, height: 540 })
  expect(fitted.for).toBeUndefined()
  const [large, small] = [await done(soft(3), ...fitted.steps), await done(soft(1), ...PLACES)]
  expect([large.width / small.width, large.height / small.height].map((times) => times.toFixed(1))).toEqual(['3.0', '3.0'])
  let worst = 0
  for (let y = 4; y < small.height - 4; y += 4)
    for (let x = 4; x < small.width - 4; x += 4)
      pixel(small, x, y).forEach((value, c) => (worst = Math.max(worst, Math.abs(value - pixel(large, 3 * x + 1, 3 * y + 1)[c]) / 257)))
  expect(worst).toBeLessThanOrEqual(2)
})

test('on a picture of another shape a crop keeps its own, about the same middle, within the picture', () => {
  const upright = { width: 600, height: 800 }
  const [crop] = fittedRecipe(recipe({ do: 'crop', x: 0, y: 30, width: 240, height: 120 }), upright).steps
  expect(crop).toEqual({ do: 'crop', x: 0, y: 250, width: 600, height: 300 })
  const [corner] = fittedRecipe(recipe({ do: 'crop', x: 120, y: 90, width: 120, height: 90 }), upright).steps
  expect(corner).toEqual({ do: 'crop', x: 300, y: 488, width: 300, height: 225 })
  const [line] = fittedRecipe(recipe({ do: 'gradient', from: [119.5, 0], to: [119.5, 179.5], stops: 1 }), upright).steps
  expect(line).toMatchObject({ from: [299.5, expect.closeTo(1.72, 1)], to: [299.5, 799.5] })
})

test('what is delivered, how it is sharpened, and steps without a place stay as they are', () => {
  const same: Step[] = [
    { do: 'light', stops: 0.3 },
    { do: 'size', long_px: 900 },
    { do: 'sharpen', radius_px: 1.1, amount: 0.5, threshold: 0 },
    { do: 'caption', text: '{title}', tone: 'dark' },
  ]
  expect(fittedRecipe(recipe(...same), { width: 6000, height: 4000 }).steps).toEqual(same)
  const places = { ...recipe(...PLACES), for: undefined }
  expect(fittedRecipe(places, { width: 720, height: 540 }).steps).toEqual(PLACES)
  expect(fittedRecipe(recipe(...PLACES), MADE).steps).toEqual(PLACES)
})

test('steps after a size lie by the sizes they have there', () => {
  const steps: Step[] = [{ do: 'size', long_px: 120 }, { do: 'gradient', from: [9.5, 9.5], to: [59.5, 9.5], stops: 1 }] // prettier-ignore
  // Both pictures are 120 px wide there.
  expect(fittedRecipe(recipe(...steps), { width: 960, height: 720 }).steps).toEqual(steps)
})

describe('a scale bar', () => {
  const bar: Step = { do: 'scaleBar', pixel_mm: 0.02, length_mm: 1 }
  test('is reckoned by the pixels of the other picture', () => {
    expect(fittedRecipe(recipe(bar), { width: 480, height: 360, pixel_mm: 0.01 }).steps).toEqual([{ ...bar, pixel_mm: 0.01 }])
    // Somebody measured 5 % more than the plan says: that holds there too.
    const [measured] = fittedRecipe(recipe({ ...bar, pixel_mm: 0.021 }), { width: 480, height: 360, pixel_mm: 0.01 }).steps
    expect(measured).toMatchObject({ pixel_mm: expect.closeTo(0.0105, 9) })
  })

  test('gets a length that suits where its own does not', () => {
    const lengthIn = (pixel_mm: number, ...before: Step[]) => fittedRecipe(recipe(...before, bar), { ...MADE, pixel_mm }).steps.at(-1)
    expect(lengthIn(0.002)).toMatchObject({ length_mm: 0.05 })
    expect(lengthIn(0.5)).toMatchObject({ length_mm: 20 })
    // A part of the picture, delivered larger: 2 mm wide as it is, 1 mm of it.
    const half: Step[] = [{ do: 'crop', x: 0, y: 0, width: 120, height: 90 }, { do: 'size', long_px: 900 }] // prettier-ignore
    expect(lengthIn(0.017, ...half)).toMatchObject({ length_mm: 1 })
    expect(lengthIn(0.013, ...half)).toMatchObject({ length_mm: 0.2 })
    expect(shapeAfter(half, MADE)).toEqual({ width: 900, height: 675 })
  })

  test('is refused where the size of a pixel is not known, unless it is switched off', () => {
    expect(() => fittedRecipe(recipe(bar), { width: 480, height: 360 })).toThrow(expect.objectContaining({ code: 'finish.noScale' }))
    expect(fittedRecipe(recipe({ ...bar, off: true }), { width: 480, height: 360 }).steps).toEqual([{ ...bar, off: true }])
  })
})
