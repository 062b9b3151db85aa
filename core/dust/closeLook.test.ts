import { createPlane, IDENTITY, type Similarity } from '../raster'
import { Planes, WasmKernels } from '../raster/kernels'
import { randomStream } from '../simulate'
import { CloseLook } from './closeLook'
import { SensorField, type KeptFrame } from './field'
import { Narrowing } from './narrowing'
import { LOG_PART } from './seen'

const [WIDTH, HEIGHT, COUNT] = [320, 240, 9]
const SPECK = { x: 150.3, y: 106.8, radius_px: 5, dark: 0.3 }
const PART = { x: 134, y: 91, width: 33, height: 33 }
const REACH_px = 9
const MOVING = Array.from({ length: COUNT }, (_, k) => ({ ...IDENTITY, dx_px: 1.7 * k, dy_px: 0.9 * k }))

const round = (x: number, y: number) => -SPECK.dark / (1 + Math.exp(2 * (Math.hypot(x - SPECK.x, y - SPECK.y) - SPECK.radius_px)))
/** A lint: thrice as long as wide. */
const lint = (x: number, y: number) => -SPECK.dark / (1 + Math.exp(2 * (Math.hypot((x - SPECK.x) / 1.4, 2.2 * (y - SPECK.y)) - SPECK.radius_px)))

/** A rough texture that moves over a sensor with one speck: logarithms as the finder keeps them. */
function frames(motions: Similarity[], speck: (x: number, y: number) => number): KeptFrame[] {
  const random = randomStream(7)
  const narrowing = new Narrowing(new Planes(new WasmKernels(), WIDTH, HEIGHT))
  const waves = Array.from({ length: 24 }, () => ({ u: 1.2 * (random() - 0.5), v: 1.2 * (random() - 0.5), at: 6.3 * random() }))
  return motions.map((motion) => {
    const plane = createPlane(WIDTH, HEIGHT)
    for (let y = 0, i = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++, i++) {
        const [px, py] = [x - motion.dx_px, y - motion.dy_px]
        const texture = waves.reduce((sum, { u, v, at }) => sum + 0.065 * Math.sin(u * px + v * py + at), 0)
        plane.data[i] = texture + speck(x, y)
      }
    return { log: Int16Array.from(narrowing.of(plane).data, (value) => Math.round(value / LOG_PART)), motion }
  })
}

/** A look that began some px beside the speck, with a radius that is not its own. */
function looked(shot: KeptFrame[]): CloseLook {
  const look = new CloseLook(new SensorField(shot, WIDTH, HEIGHT), PART, { x: SPECK.x + 1.2, y: SPECK.y - 1, radius_px: 4 }, REACH_px, 1)
  look.settle(12)
  return look
}

/** What was told of the part, beside the truth: the root of the mean square where there is something of a speck. */
function wrong(look: CloseLook, truth: (x: number, y: number) => number, form = look.form()): number {
  let [squares, count] = [0, 0]
  for (let y = PART.y, i = 0; y < PART.y + PART.height; y++)
    for (let x = PART.x; x < PART.x + PART.width; x++, i++) {
      squares += (look.rings.at(x, y) + form[i] - truth(x, y)) ** 2
      count += truth(x, y) < -SPECK.dark / 10 ? 1 : 0
    }
  return Math.sqrt(squares / count)
}

test('a speck is told from a texture that moves over it: where it lies, how wide and how dark it is', () => {
  const look = looked(frames(MOVING, round))
  expect(Math.hypot(look.rings.x - SPECK.x, look.rings.y - SPECK.y)).toBeLessThan(0.15)
  const dark = look.rings.level(2)
  expect(Math.abs(dark - SPECK.dark)).toBeLessThan(0.02)
  expect(Math.abs(look.rings.halfRadius(dark) - SPECK.radius_px)).toBeLessThan(0.3)
  const { explained, steady } = look.evidence()
  expect(explained).toBeGreaterThan(0.8)
  expect(steady).toBeGreaterThan(45)
  // The texture has a deviation of 0.22.
  expect(wrong(look, round)).toBeLessThan(0.025)
})

test('a lint keeps its form, which rings alone do not tell', () => {
  const look = looked(frames(MOVING, lint))
  const form = look.form()
  expect(wrong(look, lint, form)).toBeLessThan(
    0.6 *
      wrong(
        look,
        lint,
        form.map(() => 0),
      ),
  )
})

test('a sensor without a speck shows none', () => {
  const { explained, steady } = looked(frames(MOVING, () => 0)).evidence()
  expect(explained < 0.2 || steady < 20).toBe(true)
})

test('of a subject that stands still nothing is said', () => {
  const still = frames(
    Array.from({ length: COUNT }, () => IDENTITY),
    round,
  )
  expect(new SensorField(still, WIDTH, HEIGHT).shade.data.some((value) => Math.abs(value) > 1e-3)).toBe(false)
  expect(Math.abs(looked(still).rings.level(3))).toBeLessThan(0.01)
})

test('frames that differ by more than noise are doubted: what they say is told from the others', () => {
  const all = frames(MOVING, round)
  // A bright thing over the speck in two frames, which has nothing to do with the sensor.
  for (const { log } of all.slice(3, 5)) for (let y = 101; y <= 113; y++) for (let x = 148; x <= 156; x++) log[y * WIDTH + x] += 0.5 / LOG_PART
  const look = new CloseLook(new SensorField(all, WIDTH, HEIGHT), PART, SPECK, REACH_px, 1)
  const wrongBy = () => Math.abs(look.rings.level(3) - SPECK.dark)
  look.settle(1)
  const believed = wrongBy()
  look.settle(11)
  expect(wrongBy()).toBeLessThan(0.3 * believed)
})
