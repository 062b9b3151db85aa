import * as fc from 'fast-check'
import { exposureGain, gain_ev, gainOf } from './exposure'
import { solve } from './solve'

describe('a linear system', () => {
  const number = fc.double({ min: -10, max: 10, noNaN: true })

  test('is solved for what it was made of, whatever the order of its rows', () => {
    const facts = fc.integer({ min: 1, max: 6 }).chain((n) =>
      fc.record({
        rows: fc.array(fc.array(number, { minLength: n, maxLength: n }), { minLength: n, maxLength: n }),
        x: fc.array(number, { minLength: n, maxLength: n }),
      }),
    )
    fc.assert(
      fc.property(facts, ({ rows, x }) => {
        // A heavy diagonal, one row further down, keeps it solvable and makes it ask for other pivots.
        const n = x.length
        const heavy = rows.map((row, r) => row.map((v, c) => (c === (r + 1) % n ? v + 100 : v)))
        const system = heavy.map((row) => Float64Array.from([...row, row.reduce((sum, v, c) => sum + v * x[c], 0)]))
        const solved = solve(system)!
        solved.forEach((value, k) => expect(value).toBeCloseTo(x[k], 6))
      }),
    )
  })

  test('without one solution has none', () => {
    expect(solve([Float64Array.of(1, 2, 3), Float64Array.of(2, 4, 6)])).toBeUndefined()
    expect(solve([Float64Array.of(0, 1)])).toBeUndefined()
    expect(solve([Float64Array.of(NaN, 1)])).toBeUndefined()
  })
})

describe('the gain between two exposures', () => {
  const still = { scale: 1, rotation_rad: 0, dx_px: 0, dy_px: 0 }
  /** A plane of linear light with steps of brightness from left to right. */
  function light(width: number, height: number, value: (x: number, y: number) => number) {
    const stride = width + 3
    const image = new Float32Array(stride * height).fill(NaN)
    for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) image[y * stride + x] = value(x, y)
    return { width, height, stride, image }
  }
  const steps = (x: number) => 0.05 + 0.02 * x

  test('in stops is what the light differs by, up and down', () => {
    for (const stops of [-1.5, -0.3, 0, 0.2, 1]) {
      const [a, b] = [light(20, 12, steps), light(20, 12, (x) => Math.min(1, steps(x) * 2 ** -stops))]
      expect(gain_ev(exposureGain(a, b, still))).toBeCloseTo(stops, 0)
      expect(Math.abs(gain_ev(exposureGain(a, b, still)) - stops)).toBeLessThan(0.12)
    }
  })

  test('follows the motion between them', () => {
    const moved = light(20, 12, (x) => steps(x - 4) / 2)
    expect(Math.abs(gain_ev(exposureGain(light(20, 12, steps), moved, { ...still, dx_px: 4 })) - 1)).toBeLessThan(0.1)
  })

  test('is not misled by what is white, black or out of the picture', () => {
    const half = light(20, 12, (x, y) => (y < 3 ? 1 : y > 9 ? 0 : steps(x) / 2))
    const whole = light(20, 12, (x, y) => (y < 3 ? 1 : y > 9 ? 0 : steps(x)))
    expect(Math.abs(gain_ev(exposureGain(whole, half, still)) - 1)).toBeLessThan(0.1)
    expect(exposureGain(whole, half, { ...still, dx_px: 500 })).toBe(1)
    expect(
      exposureGain(
        light(8, 8, () => 0),
        light(8, 8, () => 0),
        still,
      ),
    ).toBe(1)
  })

  test('in stops and as a factor say the same', () => {
    for (const stops of [-2, 0, 0.7]) expect(gain_ev(gainOf(stops))).toBeCloseTo(stops, 9)
  })
})
