import { compose, cornerDistance_px, createPlane, IDENTITY, invert, luma, smooth, warpPlane, type Plane, type Similarity } from '../raster'
import { POINT } from '../raster/kernels'
import { SimulatedSeries, type SeriesRequest } from '../simulate'
import { gain_ev, gainOf, PairRegistrar, Preparer, reconcile, SeriesRegistrar, type Link, type Prepared } from '.'
import { exposureGain } from './exposure'
import { solve } from './solve'

const preparer = new Preparer()
const prepare = (plane: Plane) => preparer.fromLuma(plane)
const registerPair = (reference: Prepared, frame: Prepared, width: number, start?: Similarity) =>
  new PairRegistrar().register(reference, frame, width, start)

const WIDTH = 360
const HEIGHT = 240

/** Blobs and lines at many sizes, repeatable. */
function texture(seed: number): Plane {
  let state = seed
  const random = () => (state = (state * 16807) % 2147483647) / 2147483647
  const out = createPlane(WIDTH, HEIGHT)
  for (let k = 0; k < 900; k++) {
    const [cx, cy, radius, tone] = [random() * WIDTH, random() * HEIGHT, 1 + 7 * random(), random() - 0.5]
    for (let y = Math.max(0, Math.floor(cy - radius)); y < Math.min(HEIGHT, cy + radius); y++) {
      for (let x = Math.max(0, Math.floor(cx - radius)); x < Math.min(WIDTH, cx + radius); x++) {
        if (Math.hypot(x - cx, y - cy) < radius) out.data[y * WIDTH + x] += tone * 0.35
      }
    }
  }
  for (let i = 0; i < out.data.length; i++) out.data[i] = Math.min(0.95, Math.max(0.05, 0.5 + out.data[i]))
  return smooth(out)
}

/** The frame that `motion` says the camera saw of `reference`. */
const seen = (reference: Plane, motion: Similarity) => warpPlane(reference, invert(motion))

function noisy(plane: Plane, deviation: number): Plane {
  let state = 99
  const random = () => (state = (state * 16807) % 2147483647) / 2147483647
  return { ...plane, data: plane.data.map((v) => v + deviation * (random() + random() + random() - 1.5) * 2) }
}

describe('solving', () => {
  test('a small system, with pivoting', () => {
    const rows = [
      [0, 2, 1, 7],
      [1, 1, 1, 6],
      [3, 0, -1, 0],
    ].map((row) => Float64Array.from(row))
    expect([...solve(rows)!].map((v) => Math.round(v * 1e9) / 1e9)).toEqual([1, 2, 3])
  })

  test('a singular system has no answer', () => {
    expect(solve([Float64Array.from([1, 1, 2]), Float64Array.from([2, 2, 4])])).toBeUndefined()
  })
})

describe('a frame made ready', () => {
  test('is aligned on fine detail, though faint, not on a strong edge out of focus', () => {
    const picture = createPlane(WIDTH, HEIGHT)
    const dots = texture(3)
    for (let y = 0; y < HEIGHT; y++) {
      for (let x = 0; x < WIDTH; x++) {
        const i = y * WIDTH + x
        // To the left an edge from black to white, spread over some 60 px, to the right dots of little contrast.
        picture.data[i] = x < WIDTH / 2 ? 0.9 / (1 + Math.exp((90 - x) / 12)) : 0.85 + 0.25 * (dots.data[i] - 0.5)
      }
    }
    const { levels } = prepare(picture)
    const shareOnTheRight = ({ points }: (typeof levels)[number]) => {
      let right = 0
      // The seam between the two halves belongs to neither.
      for (let p = 0; p < points.length; p += POINT.size) if (points[p] > 6) right++
      return right / (points.length / POINT.size)
    }
    expect(shareOnTheRight(levels[0])).toBeGreaterThan(0.85)
    expect(shareOnTheRight(levels.at(-1)!)).toBeLessThan(0.6)
  })
})

describe('a pair of frames', () => {
  const reference = texture(5)
  const motion: Similarity = { scale: 1.013, rotation_rad: 0.006, dx_px: 4.3, dy_px: -6.7 }

  test('a known motion is found to a twentieth of a pixel', () => {
    const found = registerPair(prepare(reference), prepare(seen(reference, motion)), WIDTH)
    expect(cornerDistance_px(found.motion, motion, WIDTH, HEIGHT)).toBeLessThan(0.05)
    expect(found.correlation).toBeGreaterThan(0.98)
  })

  test('blur in one of the two costs little', () => {
    const blurred = smooth(smooth(smooth(seen(reference, motion))))
    const found = registerPair(prepare(reference), prepare(blurred), WIDTH)
    expect(cornerDistance_px(found.motion, motion, WIDTH, HEIGHT)).toBeLessThan(0.12)
  })

  test('noise costs little', () => {
    const found = registerPair(prepare(noisy(reference, 0.02)), prepare(noisy(seen(reference, motion), 0.02)), WIDTH)
    expect(cornerDistance_px(found.motion, motion, WIDTH, HEIGHT)).toBeLessThan(0.12)
  })

  test('a breathing of ten percent is found from a rough first guess', () => {
    const breathed: Similarity = { ...IDENTITY, scale: 1.1 }
    const found = registerPair(prepare(reference), prepare(seen(reference, breathed)), WIDTH, { ...IDENTITY, scale: 1.08 })
    expect(cornerDistance_px(found.motion, breathed, WIDTH, HEIGHT)).toBeLessThan(0.2)
  })

  test('a darker frame gives the gain that brings it back, and the same motion', () => {
    const darker = seen(reference, motion)
    const found = registerPair(prepare(reference), prepare({ ...darker, data: darker.data.map((v) => v * 0.8) }), WIDTH)
    expect(found.gain).toBeCloseTo(1.25, 2)
    expect(cornerDistance_px(found.motion, motion, WIDTH, HEIGHT)).toBeLessThan(0.05)
  })

  test('an empty picture gives no motion and no correlation, not NaN', () => {
    const empty = createPlane(WIDTH, HEIGHT)
    const found = registerPair(prepare(empty), prepare(empty), WIDTH)
    expect(found.motion).toEqual(IDENTITY)
    expect(found.gain).toBe(1)
  })
})

describe('exposure', () => {
  test('is the median ratio, whatever is clipped or black', () => {
    const decoded = (v: number) => ((v + 0.055) / 1.055) ** 2.4
    const light = texture(8).data.map(decoded)
    const level = (image: Float32Array) => ({ width: WIDTH, height: HEIGHT, stride: WIDTH, image })
    const darker = texture(8).data.map((v, i) => (i % 11 === 0 ? 1 : decoded(v / 1.2)))
    expect(exposureGain(level(light), level(darker), IDENTITY)).toBeCloseTo(1.2, 2)
  })

  test('is stated in stops of light, there and back', () => {
    expect(gain_ev(1)).toBe(0)
    expect(gain_ev(2 ** (1 / 2.2))).toBeCloseTo(1, 9)
    expect(gainOf(gain_ev(0.83))).toBeCloseTo(0.83, 12)
  })

  test('is one where nothing is shared', () => {
    const black = { width: 20, height: 20, stride: 20, image: new Float32Array(400) }
    expect(exposureGain(black, black, IDENTITY)).toBe(1)
  })
})

describe('a series', () => {
  test('links that disagree are reconciled between them', () => {
    const step = (dx_px: number): Link['pair'] => ({ motion: { ...IDENTITY, dx_px }, gain: 1, residual: 0, correlation: 0.9 })
    const links: Link[] = [
      { from: 0, to: 1, pair: step(1.1) },
      { from: 1, to: 2, pair: step(1.1) },
      { from: 0, to: 2, pair: step(2) },
    ]
    const { motions } = reconcile(links, 3, 0)
    expect(motions[0].dx_px).toBeCloseTo(0, 9)
    expect(motions[2].dx_px).toBeGreaterThan(2)
    expect(motions[2].dx_px).toBeLessThan(2.2)
  })

  test('motions and gains are relative to the reference, which stands still', () => {
    const pair = { motion: { ...IDENTITY, dx_px: 2 }, gain: 1.1, residual: 0, correlation: 0.9 }
    const { motions, gains } = reconcile(
      [
        { from: 0, to: 1, pair },
        { from: 1, to: 2, pair },
      ],
      3,
      1,
    )
    expect(motions.map(({ dx_px }) => Math.round(dx_px * 1e6) / 1e6)).toEqual([-2, 0, 2])
    expect(gains[1]).toBe(1)
    expect(gains[2]).toBeCloseTo(1.1, 9)
  })

  const simulated: SeriesRequest = {
    scene: 'bristles',
    seed: 4,
    camera: { sensorWidth_mm: 36, width_px: 480, height_px: 320, focalLength_mm: 100, fNumber: 5.6, magnification: 1, mover: 'ring' },
    positions_mm: [0, 1.2, 2.4, 3.6, 4.8, 6, 7.2],
    unsteadiness: { shift_px: 1, rotation_deg: 0.06, exposure_ev: 0.03 },
    fullWell: 20_000,
  }

  test.each(['ring', 'rail'] as const)('of the simulator by %s is registered within 0.3 px at the corners', (mover) => {
    const series = new SimulatedSeries({ ...simulated, camera: { ...simulated.camera, mover } })
    const frames = simulated.positions_mm.map((_, k) => series.shoot(k))
    const registrar = new SeriesRegistrar(480)
    frames.forEach(({ picture }) => registrar.add(prepare(luma(picture))))
    const { motions } = registrar.finish(series.reference)
    const errors = frames.map(({ motion }, k) => cornerDistance_px(motions[k], motion, 480, 320))
    const rms = Math.sqrt(errors.reduce((sum, e) => sum + e * e, 0) / errors.length)
    expect(rms).toBeLessThan(0.3)
  })

  test('a frame of something else is lost, wherever it stands, and the others hang together without it', () => {
    const base = texture(5)
    const shift = (k: number) => seen(base, { ...IDENTITY, dx_px: 0.7 * k, dy_px: -0.3 * k, scale: 1 + 0.002 * k })
    for (const alien of [0, 3, 7]) {
      const registrar = new SeriesRegistrar(WIDTH)
      for (let k = 0; k < 8; k++) registrar.add(prepare(k === alien ? texture(77) : shift(k)))
      const { motions, lost, reference } = registrar.finish(3)
      expect(lost).toEqual([alien])
      expect(reference).toBe(alien === 3 ? 2 : 3)
      for (let k = 0; k < 8; k++) {
        if (k === alien) continue
        const truth = compose(
          { ...IDENTITY, dx_px: 0.7 * k, dy_px: -0.3 * k, scale: 1 + 0.002 * k },
          invert({ ...IDENTITY, dx_px: 0.7 * reference, dy_px: -0.3 * reference, scale: 1 + 0.002 * reference }),
        )
        expect(cornerDistance_px(motions[k], truth, WIDTH, HEIGHT)).toBeLessThan(0.2)
      }
    }
  })

  test('a bump of a twentieth of the width is followed', () => {
    const base = texture(5)
    const registrar = new SeriesRegistrar(WIDTH)
    const motion = (k: number) => ({ ...IDENTITY, dx_px: k < 3 ? 0 : 0.05 * WIDTH, dy_px: k < 3 ? 0 : 7 })
    for (let k = 0; k < 6; k++) registrar.add(prepare(seen(base, motion(k))))
    const { motions, lost } = registrar.finish(0)
    expect(lost).toEqual([])
    expect(cornerDistance_px(motions[5], motion(5), WIDTH, HEIGHT)).toBeLessThan(0.15)
  })
})
