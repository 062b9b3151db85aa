import { createPlane, type Plane } from '../raster'
import { gaussian, randomStream } from '../simulate'
import { centred, evenedAround } from './disc'

const REAL = { x: 30.3, y: 27.6, radius_px: 6 }

/** A plane with a soft dark disc, or what `value` makes of how far a place lies from its middle. */
function plane(value = (away_px: number) => -0.5 / (1 + Math.exp(2 * (away_px - REAL.radius_px))), noise = 0): Plane {
  const random = randomStream(3)
  const made = createPlane(60, 56)
  for (let i = 0; i < made.data.length; i++)
    made.data[i] = value(Math.hypot((i % 60) - REAL.x, Math.floor(i / 60) - REAL.y)) + noise * gaussian(random)
  return made
}
const wrong = (found: Float32Array, truth: Float32Array) =>
  Math.sqrt(found.reduce((sum, value, i) => sum + (value - truth[i]) ** 2, 0) / found.length)

test.each([
  { x: 32, y: 26, radius_px: 5 },
  { x: 28.5, y: 29, radius_px: 8 },
])('a disc at $x, $y comes to lie on what is dark, as large as that', (guess) => {
  const { x, y, radius_px } = centred(plane(undefined, 0.03), guess)
  expect(Math.hypot(x - REAL.x, y - REAL.y)).toBeLessThan(0.4)
  expect(Math.abs(radius_px - REAL.radius_px)).toBeLessThan(0.5)
})

test('where nothing is dark a disc stays', () => {
  const guess = { x: 30, y: 28, radius_px: 5 }
  expect(
    centred(
      plane(() => 0.2),
      guess,
    ),
  ).toEqual(guess)
})

test('noise about a round speck is evened out, its rim stays as steep', () => {
  const truth = plane().data
  const found = evenedAround(plane(undefined, 0.04), REAL, 0.04 ** 2)
  expect(wrong(found, truth)).toBeLessThan(0.4 * 0.04)
})

test('a speck of a form of its own keeps it', () => {
  const half = plane()
  half.data.forEach((value, i) => (half.data[i] = i % 60 < REAL.x ? value : 0))
  expect(wrong(evenedAround(half, REAL, 0.01 ** 2), half.data)).toBeLessThan(0.01)
})
