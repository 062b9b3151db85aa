import { columns, inverse, SRGB_PRIMARIES, times, WIDE_PRIMARIES } from '../formats'
import { brightestOf, developmentFrom, neutralMultipliers, toWide } from '.'

const samples = (...pixels: [number, number, number][]) => Uint16Array.from(pixels.flat())
const decoded = (sample: number) => {
  const v = sample / 65_535
  return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4
}

describe('how a series is developed', () => {
  test('factors are what the camera noted, the smallest of them 1', () => {
    expect(developmentFrom([2048, 1024, 1536, 1024], [0.1, 0.1, 0.1]).multipliers).toEqual([2, 1, 1.5])
    expect(developmentFrom([1, 1.25, 2], [0.1, 0.1, 0.1]).multipliers).toEqual([1, 1.25, 2])
  })

  test('what lies within white needs no headroom', () => {
    expect(developmentFrom([2, 1, 1.5], [0.4, 0.9, 0.5]).headroom).toBe(1)
  })

  test('a red light that a factor takes beyond white is kept by headroom', () => {
    expect(developmentFrom([2, 1, 1.5], [0.8, 0.9, 0.5]).headroom).toBeCloseTo(1.6, 9)
    expect(developmentFrom([2, 1, 1.5], [0.6, 0.5, 0.95]).headroom).toBeCloseTo(1.425, 9)
  })

  test('a channel that is full tells of no colour, and asks for no more than white', () => {
    expect(developmentFrom([2, 1, 1.5], [1, 1, 1]).headroom).toBe(1)
    expect(developmentFrom([2, 1, 1.5], [0.995, 0.7, 0.9]).headroom).toBeCloseTo(1.35, 9)
  })
})

describe('the brightest of a picture', () => {
  const even = (count: number, pixel: [number, number, number]) => Array.from({ length: count }, () => pixel)

  test('is told for each channel', () => {
    const [red, green, blue] = brightestOf(samples(...even(20_000, [10_000, 30_000, 50_000])))
    expect([red, green, blue].map((value) => Math.round(value * 65_535))).toEqual([10_000, 30_000, 50_000])
  })

  test('a spark or two do not count, a lamp does', () => {
    const plain = even(100_000, [20_000, 20_000, 20_000])
    const lit = (count: number) => brightestOf(samples(...plain, ...even(count, [60_000, 60_000, 60_000])))[0] * 65_535
    expect(lit(3)).toBe(20_000)
    expect(lit(200)).toBe(60_000)
  })

  test('of a black picture is nothing', () => {
    expect(brightestOf(samples(...even(10, [0, 0, 0])))).toEqual([0, 0, 0])
  })
})

describe('a place that becomes grey', () => {
  /** A frame of one colour with a place of another in it, in the camera's own light. */
  const frame = (place: [number, number, number], around: [number, number, number] = [9000, 12_000, 5000]) => {
    const made = new Uint16Array(3 * 200 * 100)
    for (let i = 0; i < 200 * 100; i++) made.set(Math.hypot((i % 200) - 150, Math.floor(i / 200) - 40) < 6 ? place : around, 3 * i)
    return made
  }
  const at: [number, number] = [150.5 / 200, 40.5 / 100]

  test('gets the factors that make it so, whatever is around it', () => {
    const found = neutralMultipliers(frame([8000, 16_000, 10_000]), 200, 100, at)
    expect(found).toEqual([2, 1, 1.6])
    expect(developmentFrom(found as [number, number, number], [0.1, 0.1, 0.1]).multipliers).toEqual([2, 1, 1.6])
  })

  test('is refused where it is white or black, and where it lies outside', () => {
    expect(neutralMultipliers(frame([65_535, 50_000, 40_000]), 200, 100, at)).toBe('raw.neutralLight')
    expect(neutralMultipliers(frame([90, 120, 60]), 200, 100, at)).toBe('raw.neutralDark')
    expect(neutralMultipliers(frame([8000, 16_000, 10_000]), 200, 100, [3, 0.5])).toBe('raw.neutralDark')
  })
})

describe('the wide space', () => {
  const IDENTITY = [[1, 0, 0], [0, 1, 0], [0, 0, 1]] // prettier-ignore
  /** What a camera that sees as sRGB does saw, as light in sRGB. */
  const backToSrgb = (made: Uint16Array) =>
    times(inverse(columns(SRGB_PRIMARIES)), times(columns(WIDE_PRIMARIES), [decoded(made[0]), decoded(made[1]), decoded(made[2])]))

  test.each<[string, [number, number, number]]>([
    ['grey', [20_000, 20_000, 20_000]],
    ['a dark grey', [400, 400, 400]],
    ['red', [50_000, 2000, 3000]],
    ['green', [3000, 40_000, 8000]],
    ['blue', [1500, 4000, 30_000]],
  ])('holds %s as it was', (_, pixel) => {
    const made = samples(pixel)
    toWide(made, IDENTITY, 1)
    backToSrgb(made).forEach((light, c) => expect(light).toBeCloseTo(pixel[c] / 65_535, 3))
  })

  test('greys stay grey, and a gain is a factor on light', () => {
    for (const gain of [0.5, 1, 1.4]) {
      const made = samples([20_000, 20_000, 20_000])
      toWide(made, IDENTITY, gain)
      expect(Math.max(...made) - Math.min(...made)).toBeLessThanOrEqual(8)
      expect(decoded(made[1])).toBeCloseTo((gain * 20_000) / 65_535, 3)
    }
  })

  test('what lies beyond white is white, what lies below black is black', () => {
    const made = samples([65_535, 65_535, 65_535], [0, 0, 0])
    toWide(made, IDENTITY, 3)
    expect([...made]).toEqual([65_535, 65_535, 65_535, 0, 0, 0])
    const cold = samples([30_000, 100, 100])
    toWide(cold, [[1, 0, 0], [-1, 1, 0], [0, 0, 1]], 1) // prettier-ignore
    expect(Math.min(...cold)).toBeGreaterThanOrEqual(0)
  })

  test('the matrix of a camera is gone through: its own red may be another red', () => {
    // A camera whose red channel sees a quarter of green light as well.
    const srgbFromCamera = inverse([[1, 0.25, 0], [0, 1, 0], [0, 0, 1]]) // prettier-ignore
    const made = samples([12_000, 32_000, 4000])
    toWide(made, srgbFromCamera, 1)
    const [red, green, blue] = backToSrgb(made)
    expect(red).toBeCloseTo((12_000 - 0.25 * 32_000) / 65_535, 3)
    expect([green, blue]).toEqual([expect.closeTo(32_000 / 65_535, 3), expect.closeTo(4000 / 65_535, 3)])
  })
})
