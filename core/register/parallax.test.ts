import { compose, cornerDistance_px, IDENTITY, invert, luma, type Similarity } from '../raster'
import { POINT } from '../raster/kernels'
import { SimulatedSeries } from '../simulate'
import type { Link } from './link'
import { SharpPlaces } from './sharpPlaces'
import { Preparer, reconcile, SeriesRegistrar, type Prepared } from '.'

const COUNT = 12
const REFERENCE = 3
const shifted = (dx_px: number, dy_px: number): Similarity => ({ ...IDENTITY, dx_px, dy_px })

/**
 * A camera that is pushed aside before frame 5 and back a little before frame 9, over depths of which each moves `slope` more
 * than the one before; links measure at a depth between their frames that is now nearer to the one, now to the other.
 */
function pushed(slope: number, error = (_link: number) => 0) {
  const pushes = Array.from({ length: COUNT }, (_, k) => (k < 5 ? 0 : k < 9 ? 25 : 14))
  const at = (k: number, depth: number) => shifted(pushes[k] * (1 + slope * (depth - REFERENCE)), 0.4 * pushes[k] * (1 + slope * (depth - REFERENCE)))
  const links: Link[] = []
  const depths: number[] = []
  for (let to = 1; to < COUNT; to++)
    for (const reach of [1, 2, 4]) {
      const from = to - reach
      if (from < 0) continue
      const depth = reach === 2 ? to - 0.4 : from + 0.3 * reach
      const { dx_px, dy_px, ...still } = compose(at(to, depth), invert(at(from, depth)))
      const motion = { ...still, dx_px: dx_px + error(links.length), dy_px: dy_px - error(links.length) }
      links.push({ from, to, pair: { motion, gain: 1, residual: 0, correlation: 0.97 } })
      depths.push(depth)
    }
  return { links, depths, truth: Array.from({ length: COUNT }, (_, k) => at(k, k)) }
}

const worst = (motions: Similarity[], truth: Similarity[]) =>
  Math.max(...motions.map(({ dx_px, dy_px }, k) => Math.hypot(dx_px - truth[k].dx_px, dy_px - truth[k].dy_px)))

describe('a camera that is pushed aside', () => {
  test.each([-0.012, -0.004, 0.01])('is followed at the depth each frame is focused on, where a depth moves %d more than the next', (slope) => {
    const { links, depths, truth } = pushed(slope)
    const { motions } = reconcile(links, COUNT, REFERENCE, () => depths)
    expect(worst(motions, truth)).toBeLessThan(0.02)
    expect(worst([motions[REFERENCE]], [IDENTITY])).toBeLessThan(1e-9)
  })

  test('is followed as well where links are a little wrong', () => {
    const { links, depths, truth } = pushed(-0.01, (k) => 0.05 * Math.sin(37 * k))
    const { motions } = reconcile(links, COUNT, REFERENCE, () => depths)
    expect(worst(motions, truth)).toBeLessThan(0.3)
    // Without the depths the result is further off: every link is taken to be right at all of them.
    const blind = reconcile(
      links.map((link) => ({ ...link })),
      COUNT,
      REFERENCE,
      () => depths.map(() => 0),
    ).motions
    expect(worst(blind, truth)).toBeGreaterThan(2 * worst(motions, truth))
  })

  test('that was turned, not pushed, moves all depths alike', () => {
    const { links, depths, truth } = pushed(0, (k) => 0.04 * Math.cos(29 * k))
    const { motions } = reconcile(links, COUNT, REFERENCE, () => depths)
    expect(worst(motions, truth)).toBeLessThan(0.1)
  })

  test('in the simulator is registered as well as one that stood still', () => {
    const series = new SimulatedSeries({
      scene: 'fossil',
      seed: 3,
      camera: { sensorWidth_mm: 36, width_px: 480, height_px: 320, focalLength_mm: 100, fNumber: 4, magnification: 1, mover: 'ring' },
      positions_mm: Array.from({ length: 10 }, (_, k) => -0.5 + 1.1 * k),
      unsteadiness: { shift_px: 0, rotation_deg: 0.03, exposure_ev: 0.02 },
      fullWell: 20_000,
      faults: [{ kind: 'bump', frame: 4, shift_percent: 4, pushed: true }],
    })
    const preparer = new Preparer()
    const registrar = new SeriesRegistrar(480)
    const frames = Array.from({ length: series.count }, (_, k) => series.shoot(k))
    for (const { picture } of frames) registrar.add(preparer.fromLuma(luma(picture)))
    const { motions, lost } = registrar.finish(series.reference)
    expect(lost).toEqual([])
    const squares = frames.map(({ motion }, k) => cornerDistance_px(motions[k], motion, 480, 320) ** 2)
    expect(Math.sqrt(squares.reduce((a, b) => a + b, 0) / squares.length)).toBeLessThan(0.15)
    // What is nearer moved more.
    expect(frames[0].motion.dx_px / frames[2].motion.dx_px).toBeGreaterThan(1.02)
  })
})

describe('where a link is measured', () => {
  /** A frame of 400 × 200 px with points of one strength about each place given. */
  function sharpAt(...places: [number, number, number][]): Prepared {
    const points = places.flatMap(([x, y, strength]) =>
      Array.from({ length: 80 }, (_, k) => {
        const point = new Array<number>(POINT.size).fill(0)
        point[POINT.x] = x + (k % 10) / 10
        point[POINT.y] = y + k / 80
        point[POINT.gradientX] = strength
        return point
      }),
    )
    return { levels: [{ width: 400, height: 200, stride: 400, image: new Float32Array(0), points: Float32Array.from(points.flat()) }] }
  }
  const link = (from: number, to: number): Link => ({ from, to, pair: { motion: IDENTITY, gain: 1, residual: 0, correlation: 1 } })
  const still = [IDENTITY, IDENTITY, IDENTITY]

  test('is between the two frames, nearer to where there is more to see', () => {
    const places = new SharpPlaces(400)
    const [left, middle, right] = [-150, 0, 150]
    // Three things at three depths, each half as sharp a frame away; the one in the middle is three times as strong.
    const strengths = [1, 0.5, 0.2]
    const frame = (k: number) => sharpAt([left, 0, strengths[k]], [middle, 0, 3 * strengths[Math.abs(k - 1)]], [right, 0, strengths[2 - k]])
    for (let k = 0; k < 3; k++) places.add(frame(k))
    const [near, far, both] = places.depthsOf([link(0, 1), link(1, 2), link(0, 2)], still)
    expect(near).toBeGreaterThan(0.5)
    expect(near).toBeLessThan(1)
    expect(far).toBeCloseTo(2 - near, 6)
    expect(both).toBeCloseTo(1, 6)
  })

  test('goes along with a picture that moves', () => {
    const strengths = [0.2, 0.6, 1, 0.6, 0.2]
    const [unmoved, moved] = [0, 60].map((away) => {
      const places = new SharpPlaces(400)
      for (const [k, strength] of strengths.entries()) places.add(sharpAt([-150 + (k > 2 ? away : 0), 0, strength]))
      return places.depthsOf(
        [link(1, 2), link(2, 3), link(1, 3)],
        strengths.map((_, k) => shifted(k > 2 ? away : 0, 0)),
      )
    })
    // All there is lies at one depth.
    expect(unmoved).toEqual([2, 2, 2])
    expect(moved).toEqual(unmoved)
  })

  test('is halfway between frames that share nothing', () => {
    const places = new SharpPlaces(400)
    places.add(sharpAt([-150, 0, 1]))
    places.add(sharpAt([150, 0, 1]))
    expect(places.depthsOf([link(0, 1)], still)).toEqual([0.5])
  })
})
