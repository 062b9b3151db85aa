import { bilinear, blurred, createBend, createPlane, IDENTITY, layOn, runningMean, warpPlane, type Plane } from '.'

const [WIDTH, HEIGHT] = [81, 81]
const plane = (value: (x: number, y: number) => number): Plane => {
  const out = createPlane(WIDTH, HEIGHT)
  for (let i = 0; i < out.data.length; i++) out.data[i] = value(i % WIDTH, Math.floor(i / WIDTH))
  return out
}
const point = plane((x, y) => Number(x === 40 && y === 40))

/** Sum of a plane and its variances across and down about the middle. */
function spread({ data }: Plane): [number, number, number] {
  let [sum, across, down] = [0, 0, 0]
  data.forEach((value, i) => {
    sum += value
    across += value * ((i % WIDTH) - 40) ** 2
    down += value * (Math.floor(i / WIDTH) - 40) ** 2
  })
  return [sum, across / sum, down / sum]
}

test.each([0.6, 1, 1.5, 2.4, 4, 6.8])('a point blurred by σ = %d px is as wide to both sides, and nothing of it is lost', (sigma) => {
  const [sum, across, down] = spread(blurred(point, sigma))
  expect(sum).toBeCloseTo(1, 4)
  // Running means have whole widths: the variance is met within a tenth.
  expect(across / sigma ** 2).toBeGreaterThan(0.9)
  expect(across / sigma ** 2).toBeLessThan(1.1)
  expect(down).toBeCloseTo(across, 3)
})

test('an even plane stays as it is to its borders, and no blur changes nothing', () => {
  const even = plane(() => 0.4)
  for (const sigma of [1, 5]) for (const value of blurred(even, sigma).data) expect(value).toBeCloseTo(0.4, 5)
  expect(blurred(point, 0)).toBe(point)
})

test('a running mean is that of the places around, edges repeated', () => {
  const ramp = plane((x) => x)
  const { data } = runningMean(ramp, 2)
  expect(data[40 * WIDTH + 40]).toBeCloseTo(40, 4)
  expect(data[40 * WIDTH]).toBeCloseTo((0 + 0 + 0 + 1 + 2) / 5, 5)
})

test('between places a plane is read evenly, and beyond them its edge is repeated', () => {
  const ramp = plane((x, y) => x + 100 * y)
  expect(bilinear(ramp, 10.25, 20.5)).toBeCloseTo(2060.25, 3)
  expect(bilinear(ramp, -5, 3)).toBe(300)
  expect(bilinear(ramp, 500, 500)).toBe(80 + 8000)
})

describe('a small picture laid on the reference', () => {
  const waves = plane((x, y) => 0.5 + 0.2 * Math.sin(x / 5) + 0.2 * Math.cos(y / 7))
  const looking = { x: 0, y: 0, step: 1, width: WIDTH, height: HEIGHT }
  const motion = { scale: 1.02, rotation_rad: 0.01, dx_px: 1.3, dy_px: -0.7 }
  const inside = (i: number) => i % WIDTH > 6 && i % WIDTH < 74 && i / WIDTH > 6 && i / WIDTH < 74

  test('is what warping the whole gives', () => {
    const [laid, warped] = [layOn(waves, waves, motion, undefined, looking), warpPlane(waves, motion)]
    laid.data.forEach((value, i) => inside(i) && expect(Math.abs(value - warped.data[i])).toBeLessThan(1e-3))
  })

  test('follows a bend from place to place', () => {
    const bend = createBend(5, 5, WIDTH, HEIGHT)
    bend.x_px.forEach((_, k) => (bend.x_px[k] = k % 5))
    const { data } = layOn(waves, waves, IDENTITY, bend, looking)
    // From nothing at the left to four px at the right.
    for (const x of [10, 30, 40.0, 65])
      expect(data[40 * WIDTH + x]).toBeCloseTo(0.5 + 0.2 * Math.sin((x + (4 * x) / 80) / 5) + 0.2 * Math.cos(40 / 7), 3)
  })
})
