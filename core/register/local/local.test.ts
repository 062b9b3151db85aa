import { apply, bendAt, createPlane, IDENTITY, most_px, smooth, type Plane, type Similarity } from '../../raster'
import { Preparer, SeriesRegistrar } from '..'
import { measureLocal, reconcileLocal, type LocalLink } from '.'
import { netOf } from './net'

const [WIDTH, HEIGHT] = [480, 320]
const size = { width: WIDTH, height: HEIGHT }

/** Waves of many lengths and directions, with no two places alike, at any point of the plane. */
function pattern(x: number, y: number): number {
  let sum = 0
  for (let k = 1; k <= 9; k++) sum += Math.sin(x * 0.05 * k * Math.cos(k * 1.7) + y * 0.05 * k * Math.sin(k * 1.7) + k * k) / 9
  return 0.5 + 0.42 * sum
}

/** How far a round patch lies from where it was, fading out around it. */
const stirred = (x: number, y: number, [dx, dy]: [number, number]): [number, number] => {
  const share = Math.exp(-(((x - 120) / 60) ** 2) - ((y - 90) / 60) ** 2)
  return [dx * share, dy * share]
}

/** What the camera sees when the whole has moved, and the patch on its own besides: its content comes from so far back. */
function seen(motion: Similarity, by: [number, number]): Plane {
  const plane = createPlane(WIDTH, HEIGHT)
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      const [px, py] = apply(motion, x - (WIDTH - 1) / 2, y - (HEIGHT - 1) / 2)
      const [ux, uy] = [px + (WIDTH - 1) / 2, py + (HEIGHT - 1) / 2]
      const [dx, dy] = stirred(ux, uy, by)
      plane.data[y * WIDTH + x] = pattern(ux - dx, uy - dy)
    }
  }
  return smooth(plane)
}

const preparer = new Preparer()
const prepare = (plane: Plane) => preparer.fromLuma(plane)

describe('between two frames', () => {
  test('a part that moved on its own is found where it is, and nothing elsewhere', () => {
    const { net, shifts_px } = measureLocal(prepare(seen(IDENTITY, [0, 0])), prepare(seen(IDENTITY, [2.5, -1.5])), IDENTITY, WIDTH)
    const at = (x: number, y: number) => {
      const node = Math.round((y / HEIGHT) * (net.rows - 1)) * net.columns + Math.round((x / WIDTH) * (net.columns - 1))
      return [shifts_px[2 * node], shifts_px[2 * node + 1]]
    }
    const [x, y] = at(120, 80)
    expect(x).toBeGreaterThan(2)
    expect(x).toBeLessThan(2.8)
    expect(y).toBeLessThan(-1.1)
    expect(y).toBeGreaterThan(-1.8)
    for (const place of [at(380, 240), at(400, 60), at(60, 280)]) expect(Math.hypot(...place)).toBeLessThan(0.15)
  })

  test('where there is nothing to see, nothing is certain and nothing moves', () => {
    const even = createPlane(WIDTH, HEIGHT)
    even.data.fill(0.4)
    const { shifts_px, certainty } = measureLocal(prepare(even), prepare(even), IDENTITY, WIDTH)
    expect(Math.max(...shifts_px.map(Math.abs))).toBeLessThan(1e-6)
    expect(Math.max(...certainty)).toBe(0)
  })
})

describe('over a series', () => {
  const net = netOf(WIDTH, HEIGHT)
  const count = net.columns * net.rows
  /** A link by which everything lies `x`, `y` farther in `to` than in `from`. */
  const link = (from: number, to: number, x: number, y: number, certain = 100): LocalLink => ({
    from,
    to,
    motion: IDENTITY,
    local: {
      net,
      pixel_px: 1,
      shifts_px: Float64Array.from({ length: 2 * count }, (_, k) => (k % 2 ? y : x)),
      certainty: Float64Array.from({ length: 3 * count }, (_, k) => (k % 3 === 1 ? 0 : certain)),
    },
  })
  const unmoved = [IDENTITY, IDENTITY, IDENTITY]

  test('links in a chain add up, whichever way each was measured; the reference is not bent', () => {
    const bends = reconcileLocal([link(0, 1, 4, 0), link(2, 1, -3, 2)], unmoved, 0, size)
    expect(bends[0]).toBeUndefined()
    const [first, second] = [bendAt(bends[1]!, 200, 100), bendAt(bends[2]!, 200, 100)]
    expect(first[0]).toBeCloseTo(4, 0)
    expect(second[0]).toBeCloseTo(7, 0)
    expect(second[1]).toBeCloseTo(-2, 0)
  })

  test('what is so little that blur may have made it is not believed', () => {
    const bends = reconcileLocal([link(0, 1, 0.1, 0)], unmoved, 0, size)
    expect(bends[1] ? most_px(bends[1]) : 0).toBeLessThan(0.02)
  })

  test('the surer of two links has the say', () => {
    const bends = reconcileLocal([link(0, 1, 6, 0, 100), link(1, 0, 0, 0, 1)], unmoved, 0, size)
    expect(bendAt(bends[1]!, 200, 100)[0]).toBeGreaterThan(5.5)
  })

  test('frames are registered as a whole, and bent where a part stirred', () => {
    const motions = [IDENTITY, { ...IDENTITY, dx_px: 1.2, dy_px: -0.7 }, { ...IDENTITY, scale: 1.004, dx_px: -0.6 }]
    const stirs: [number, number][] = [
      [0, 0],
      [2.5, -1.5],
      [-2, 1],
    ]
    const registrar = new SeriesRegistrar(WIDTH, undefined, 'always')
    // The camera sees at p what lies at motion⁻¹ … so frames are drawn by the motion from them to the first.
    motions.forEach((motion, k) => registrar.add(prepare(seen(motion, stirs[k]))))
    const { bends, motions: found } = registrar.finish(0)
    expect(bends![0]).toBeUndefined()
    expect(Math.abs(found[1].dx_px + 1.2)).toBeLessThan(0.15)
    for (const k of [1, 2]) {
      const [x, y] = bendAt(bends![k]!, 120, 90)
      expect(Math.hypot(x - stirs[k][0], y - stirs[k][1])).toBeLessThan(0.6)
      expect(Math.hypot(...bendAt(bends![k]!, 400, 250))).toBeLessThan(0.3)
    }
  })

  test('unless it is asked for nothing is bent', () => {
    const registrar = new SeriesRegistrar(WIDTH)
    for (const by of [0, 2]) registrar.add(prepare(seen(IDENTITY, [by, 0])))
    expect(registrar.finish(0).bends).toBeUndefined()
  })
})
