import { createPlane, encoded, reduce } from '../raster'
import { liesIn, withoutDust, type FoundDust } from '.'

const [WIDTH, HEIGHT] = [1600, 400]
let SPECK = { x: 801.3, y: 200.7, radius: 10 }
afterEach(() => (SPECK = { x: 801.3, y: 200.7, radius: 10 }))
/** What of the light comes through there, with a rim as soft as those of real specks. */
const shadeAt = (x: number, y: number) => 1 - 0.5 / (1 + Math.exp(8 * (Math.hypot(x - SPECK.x, y - SPECK.y) / SPECK.radius - 1)))

/** The speck as it is told from frames that were halved once. */
function told(): FoundDust {
  const whole = createPlane(WIDTH, HEIGHT)
  whole.data.forEach((_, i) => (whole.data[i] = shadeAt(i % WIDTH, Math.floor(i / WIDTH))))
  const half = reduce(whole)
  const [left, top, height] = [Math.round(SPECK.x / 2) - 15, 86, 30]
  const width = Math.min(30, half.width - left)
  const shade = Float32Array.from({ length: width * height }, (_, i) => half.data[(top + Math.floor(i / width)) * half.width + left + (i % width)])
  const speck = { x: SPECK.x / 2, y: SPECK.y / 2, radius_px: SPECK.radius / 2, darkness: 0.5, left, top, width, height, shade }
  return { width: half.width, height: half.height, unhalved_px: WIDTH, specks: [speck] }
}

/** An even grey frame `larger` times as large, with the speck on it, cleaned: what is left of the speck, at the most and in the mean square. */
function left(found: FoundDust, larger: number): { most: number; usual: number } {
  const [width, height] = [WIDTH * larger, HEIGHT * larger]
  const samples = Uint16Array.from({ length: 3 * width * height }, (_, o) => {
    const i = Math.floor(o / 3)
    const place = (at: number) => (at + 0.5) / larger - 0.5
    return Math.round(65535 * encoded(0.4 * shadeAt(place(i % width), place(Math.floor(i / width)))))
  })
  withoutDust(samples, width, height, found)
  const even = 65535 * encoded(0.4)
  let [most, squares, count] = [0, 0, 0]
  for (let o = 0; o < samples.length; o += 3) {
    const away = Math.abs(samples[o] / even - 1)
    most = Math.max(most, away)
    const i = o / 3
    const near = Math.hypot((i % width) / larger - SPECK.x, Math.floor(i / width) / larger - SPECK.y) < 1.6 * SPECK.radius
    if (near) [squares, count] = [squares + away * away, count + 1]
  }
  return { most, usual: Math.sqrt(squares / count) }
}

test.each([1, 2])('a speck that was told from halved frames is taken out of frames %d times as large, its rim with it', (larger) => {
  const { most, usual } = left(told(), larger)
  expect(usual).toBeLessThan(0.004)
  expect(most).toBeLessThan(0.015)
})

test('so is one that goes on beyond the edge', () => {
  SPECK = { ...SPECK, x: 1596.4 }
  const { most, usual } = left(told(), 1)
  expect(usual).toBeLessThan(0.006)
  expect(most).toBeLessThan(0.05)
})

test('as if nothing had been halved, half a pixel beside its place and blurred, much of it stays', () => {
  const found = told()
  expect(left({ ...found, unhalved_px: found.width }, 1).usual).toBeGreaterThan(0.015)
})

test('halving keeps every second place, other sizes the middle', () => {
  const found = { width: 800, height: 533, unhalved_px: 1600, specks: [] }
  expect(liesIn(found, 1600)).toEqual({ scale: 2, offset_px: 0 })
  // The first of three pixels that one of the looked at frames became lies a pixel before its middle.
  expect(liesIn(found, 4800)).toEqual({ scale: 6, offset_px: 1 })
  expect(liesIn({ ...found, unhalved_px: 800 }, 800)).toEqual({ scale: 1, offset_px: 0 })
})
