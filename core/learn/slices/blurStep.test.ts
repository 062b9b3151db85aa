import { createPlane, IDENTITY, type Plane } from '../../raster'
import { gaussian, randomStream } from '../../simulate'
import { blurStepOf } from '.'

const [WIDTH, HEIGHT] = [256, 192]
const PLACES = Array.from({ length: 10 }, (_, k) => k)

/** What a disc leaves of a wave, as the mean over points spread evenly in it. */
function leftOf(cycles: number, diameter: number): number {
  const points = 400
  let sum = 0
  for (let k = 0; k < points; k++)
    sum += Math.cos(2 * Math.PI * cycles * (diameter / 2) * Math.sqrt((k + 0.5) / points) * Math.cos(k * Math.PI * (3 - Math.sqrt(5))))
  return sum / points
}

/** A texture of many waves, seen through so much blur a step: each column of parts is sharp at a place of its own. */
function frames(blur_px: number, { noise = 0.0005, level = 0.12, places = PLACES } = {}): Plane[] {
  const random = randomStream(3)
  const waves = Array.from({ length: 50 }, () => {
    const [cycles, way] = [0.05 + 0.3 * random(), Math.PI * random()]
    return { cycles, across: 2 * Math.PI * cycles * Math.cos(way), down: 2 * Math.PI * cycles * Math.sin(way), phase: 7 * random() }
  })
  const depthOf = (x: number) => 1.5 + (6 * Math.floor(x / 32)) / (WIDTH / 32 - 1)
  return places.map((place) => {
    const plane = createPlane(WIDTH, HEIGHT)
    for (let column = 0; column < WIDTH; column += 32) {
      const left = waves.map(({ cycles }) => (level / 5) * leftOf(cycles, Math.abs(place - depthOf(column)) * blur_px))
      for (let y = 0; y < HEIGHT; y++)
        for (let x = column; x < column + 32; x++) {
          let sum = 0.45
          for (let w = 0; w < waves.length; w++) sum += left[w] * Math.cos(waves[w].across * x + waves[w].down * y + waves[w].phase)
          plane.data[y * WIDTH + x] = sum + noise * gaussian(random)
        }
    }
    return plane
  })
}
const still = PLACES.map(() => IDENTITY)

test.each([0.8, 1.4])('a texture under a disc that grows by %p px a step tells so', (blur_px) => {
  const { ofWidth, spread } = blurStepOf(frames(blur_px), still, PLACES)!
  expect(Math.abs((ofWidth * WIDTH) / blur_px - 1)).toBeLessThan(0.07)
  expect(spread).toBeLessThan(0.05)
})

test('a long run of small steps tells what one of them makes', () => {
  const places = Array.from({ length: 61 }, (_, k) => 0.15 * k)
  const { ofWidth } = blurStepOf(
    frames(1.4, { places }),
    places.map(() => IDENTITY),
    places.map((_, k) => k),
  )!
  expect(Math.abs((ofWidth * WIDTH) / (0.15 * 1.4) - 1)).toBeLessThan(0.1)
})

test('what shows nothing, never changes, or is too short tells nothing', () => {
  const sharp = frames(1)
  expect(blurStepOf(frames(1, { level: 0, noise: 0.01 }), still, PLACES)).toBeUndefined()
  expect(
    blurStepOf(
      PLACES.map(() => sharp[4]),
      still,
      PLACES,
    ),
  ).toBeUndefined()
  expect(blurStepOf(sharp.slice(0, 4), still.slice(0, 4), PLACES.slice(0, 4))).toBeUndefined()
  // Sharp here and there without any order: leaves in a wind.
  expect(
    blurStepOf(
      PLACES.map((k) => sharp[(k * 7) % 10]),
      still,
      PLACES,
    ),
  ).toBeUndefined()
})
