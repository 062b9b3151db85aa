import { createPlane, IDENTITY, type Similarity } from '../raster'
import { randomStream } from '../simulate'
import { SensorField, type KeptFrame } from './field'
import { LOG_PART } from './seen'

const [WIDTH, HEIGHT, COUNT] = [160, 120, 9]
const SPECK = { x: 90, y: 47, radius_px: 5, dark: 0.3 }

/** A rough texture that moves over a sensor with one speck: logarithms as the finder keeps them. */
function frames(motions: Similarity[]): KeptFrame[] {
  const random = randomStream(7)
  const waves = Array.from({ length: 40 }, () => ({ u: 1.2 * (random() - 0.5), v: 1.2 * (random() - 0.5), at: 6.3 * random() }))
  return motions.map((motion) => {
    const log = new Int16Array(WIDTH * HEIGHT)
    for (let y = 0, i = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++, i++) {
        const [px, py] = [x - motion.dx_px, y - motion.dy_px]
        const texture = waves.reduce((sum, { u, v, at }) => sum + 0.05 * Math.sin(u * px + v * py + at), 0)
        const speck = Math.hypot(x - SPECK.x, y - SPECK.y) < SPECK.radius_px ? SPECK.dark : 0
        log[i] = Math.round((texture - speck) / LOG_PART)
      }
    return { log, motion }
  })
}
const PART = { x: SPECK.x - 16, y: SPECK.y - 16, width: 33, height: 33 }
/** Mean of a part within a distance of the speck's middle. */
function meanFrom(shade: Float32Array, least: number, most: number): number {
  const values = [...shade].filter((_, i) => {
    const away = Math.hypot((i % PART.width) - 16, Math.floor(i / PART.width) - 16)
    return away >= least && away < most
  })
  return values.reduce((sum, value) => sum + value, 0) / values.length
}

test('what the sensor does is told from a texture that moves over it, as dark as it is', () => {
  const motions = Array.from({ length: COUNT }, (_, k) => ({ ...IDENTITY, dx_px: 1.7 * k, dy_px: 0.9 * k }))
  // Until it settles.
  const { shade, explained } = new SensorField(frames(motions), WIDTH, HEIGHT).closely(PART).after(100)
  expect(meanFrom(shade, 0, 4)).toBeCloseTo(meanFrom(shade, 8, 14) - SPECK.dark, 1)
  // The texture, of a deviation of 0.22, is not taken for the sensor's.
  const beside = [...shade].filter((_, i) => Math.hypot((i % PART.width) - 16, Math.floor(i / PART.width) - 16) > 8)
  expect(Math.sqrt(beside.reduce((sum, value) => sum + value * value, 0) / beside.length)).toBeLessThan(0.05)
  for (const part of explained) expect(Math.abs(part - 1)).toBeLessThan(0.3)
})

test('of a subject that stands still nothing is said', () => {
  const field = new SensorField(frames(Array.from({ length: COUNT }, () => IDENTITY)), WIDTH, HEIGHT)
  expect(field.shade.data.some((value) => Math.abs(value) > 1e-3)).toBe(false)
  expect(field.shade.data.length).toBe(createPlane(WIDTH, HEIGHT).data.length)
})

test('frames that differ by more than noise are doubted: what they say is told from the others', () => {
  const motions = Array.from({ length: COUNT }, (_, k) => ({ ...IDENTITY, dx_px: 1.7 * k, dy_px: 0.9 * k }))
  const all = frames(motions)
  // A bright thing over the speck in two frames, which has nothing to do with the sensor.
  for (const { log } of all.slice(3, 5))
    for (let y = SPECK.y - 6; y <= SPECK.y + 6; y++) for (let x = SPECK.x - 2; x <= SPECK.x + 6; x++) log[y * WIDTH + x] += 0.5 / LOG_PART
  const look = new SensorField(all, WIDTH, HEIGHT).closely(PART)
  const wrong = (shade: Float32Array) => Math.abs(meanFrom(shade, 8, 14) - SPECK.dark - meanFrom(shade, 0, 4))
  const believed = wrong(look.after(60).shade)
  look.doubt()
  expect(wrong(look.after(60).shade)).toBeLessThan(0.5 * believed)
})
