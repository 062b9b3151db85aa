import { CaptureMerger, latticeOf, OffsetMeter, type Lattice } from '.'
import { captured, FOUR, SIXTEEN, type Seen } from './testCaptures'

const [WIDTH, HEIGHT] = [96, 64]
/** Fine and coloured, so that nothing fits where it does not belong; out of focus at the left. */
const seen: Seen = (x, y) => {
  const sharp = Math.min(1, Math.max(0, (x - 32) / 16))
  return [
    20_000 + 9000 * sharp * Math.sin(1.9 * x + 0.4 * y),
    24_000 + 8000 * sharp * Math.sin(0.7 * x + 2.1 * y + 1),
    16_000 + 7000 * sharp * Math.cos(2.3 * x - 1.1 * y),
  ]
}
/** Brightness is evened by means, which the border changes a little. */
const EVENED = 20

function merged(places: [number, number][], seenAt: (k: number) => Seen = () => seen, noise = 0) {
  const lattice = latticeOf(places)!
  const merger = new CaptureMerger(lattice, WIDTH, HEIGHT)
  for (const [k, place] of places.entries()) expect(merger.add(captured(seenAt(k), place, WIDTH, HEIGHT, noise, 7 + k))).toBe(true)
  return { lattice, ...merger.finish() }
}

/** The largest difference from what was there, away from the border. */
function worst({ samples, width, height }: ReturnType<typeof merged>, finer: number): number {
  let most = 0
  for (let y = 6; y < height - 6; y++)
    for (let x = 6; x < width - 6; x++)
      seen(x / finer, y / finer).forEach((value, c) => (most = Math.max(most, Math.abs(samples[3 * (y * width + x) + c] - value))))
  return most
}

describe('the lattice of a set', () => {
  test('four captures one pixel apart show all colours, sixteen half a pixel apart on twice the pixels', () => {
    expect(latticeOf(FOUR)).toEqual({ places: FOUR, finer: 1 })
    expect(latticeOf(SIXTEEN)).toEqual({ places: SIXTEEN, finer: 2 })
    expect(latticeOf([...FOUR, ...FOUR])!.finer).toBe(1)
    expect(latticeOf([...SIXTEEN, ...SIXTEEN])!.finer).toBe(2)
  })

  test('what was measured is rounded to half pixels, and refused where it lies between them or a place is missing', () => {
    expect(latticeOf(FOUR.map(([x, y]) => [x + 0.1, y - 0.12]))).toEqual({ places: FOUR, finer: 1 })
    expect(latticeOf(FOUR.map(([x, y], k) => [x + (k === 2 ? 0.25 : 0), y]))).toBeUndefined()
    expect(latticeOf([FOUR[0], FOUR[1], FOUR[2], FOUR[1]])).toBeUndefined()
    expect(latticeOf(SIXTEEN.with(5, SIXTEEN[4]))).toEqual({ places: SIXTEEN.with(5, SIXTEEN[4]), finer: 1 })
  })

  test('where the sensor stood is measured from the captures', () => {
    // Detail of many sizes, as subjects have it.
    const subject: Seen = (x, y) => {
      let light = 20_000
      for (let k = 1; k < 40; k++) light += (9000 / k) * Math.sin(0.2 * k ** 0.6 * (x * Math.cos(k) + y * Math.sin(k)) + k)
      return [0.9 * light, light, 0.6 * light]
    }
    for (const places of [FOUR, SIXTEEN]) {
      const first = captured(subject, places[0], 240, 160, 120, 1)
      const meter = new OffsetMeter(first)
      const offsets = places.map((place, k) => meter.of(captured(subject, place, 240, 160, 120, 2 + k)))
      for (const { otherwise_px } of offsets) expect(otherwise_px).toBeLessThan(0.1)
      expect(latticeOf(offsets.map(({ x_px, y_px }) => [x_px, y_px]))).toEqual({ places, finer: places.length === 4 ? 1 : 2 })
    }
  })
})

describe('captures merged', () => {
  test('four give every pixel the three colours that are there, and sixteen twice as many pixels', () => {
    expect(worst(merged(FOUR), 1)).toBeLessThanOrEqual(EVENED)
    const fine = merged(SIXTEEN)
    expect([fine.width, fine.height]).toEqual([2 * WIDTH, 2 * HEIGHT])
    expect(worst(fine, 2)).toBeLessThanOrEqual(EVENED)
  })

  test('at the border nothing is left empty', () => {
    for (const places of [FOUR, SIXTEEN]) expect(Math.min(...merged(places).samples)).toBeGreaterThan(5000)
  })

  test('each place seen twice has less noise, and flickering light is evened', () => {
    const noiseOf = (places: [number, number][]) => {
      const { samples, width } = merged(places, () => () => [20_000, 20_000, 20_000], 300)
      const values = Array.from({ length: 40 * width }, (_, k) => samples[3 * (10 * width + k)])
      return Math.sqrt(values.reduce((sum, value) => sum + (value - 20_000) ** 2, 0) / values.length)
    }
    expect(noiseOf([...FOUR, ...FOUR]) / noiseOf(FOUR)).toBeCloseTo(Math.SQRT1_2, 1)
    const flickering = merged(FOUR, (k) => (x, y) => {
      const [red, green, blue] = seen(x, y)
      const light = 1 + 0.03 * k
      return [red * light, green * light, blue * light]
    })
    expect(worst(flickering, 1)).toBeLessThan(200)
  })

  test('a full or a strange mosaic is told: green has to be seen twice in two by two', () => {
    const lattice: Lattice = { places: FOUR, finer: 1 }
    const plain = { width: 8, height: 8, samples: new Uint16Array(192).fill(900) }
    expect(new CaptureMerger(lattice, 8, 8).add(plain)).toBe(false)
  })
})

describe('what moved between captures', () => {
  test('is nothing where all stood still, whatever the noise', () => {
    for (const noise of [0, 50, 400, 2000]) for (const places of [FOUR, SIXTEEN]) expect(merged(places, undefined, noise).moved).toBe(0)
  })

  test('is the part of the picture that lies elsewhere in some of them', () => {
    for (const shift of [0.8, 3]) {
      const { moved } = merged(FOUR, (k) => (x, y) => seen(x > 48 && y > 32 ? x + (k >= 2 ? shift : 0) : x, y), 100)
      expect(moved).toBeGreaterThan(0.2)
      expect(moved).toBeLessThan(0.4)
    }
  })

  test('is all of it where the camera was touched', () => {
    expect(merged(SIXTEEN, (k) => (x, y) => seen(x + (k > 8 ? 0.7 : 0), y), 100).moved).toBeGreaterThan(0.4)
  })
})
