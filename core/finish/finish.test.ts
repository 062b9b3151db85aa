import * as fc from 'fast-check'
import { gammaCurve, matrixProfile, WIDE_PRIMARIES } from '../formats'
import { monotone, sizeOf, spaceOf, uprightWithin, type Canvas, type Step } from '.'
import { canvas, done, light, luminance, pixel, SRGB } from './testCanvas'

const WIDE = spaceOf(matrixProfile('wide', WIDE_PRIMARIES, gammaCurve(1.8)))

describe('light and samples', () => {
  test.each([
    ['sRGB', SRGB],
    ['a wide space of one exponent', WIDE],
  ])('every sample of %s comes back as it was', async (_, space) => {
    const all = canvas(256, 256, (x, y) => 256 * y + x, { space })
    const before = all.samples.slice()
    const changed = (after: Uint16Array) => after.findIndex((sample, i) => sample !== before[i])
    expect(changed((await done(all, { do: 'light', stops: 0 })).samples)).toBe(-1)
    expect(changed((await done(all)).samples)).toBe(-1)
  })

  test('a stop is twice the light, to half a per cent', async () => {
    const once = canvas(64, 1, (x) => 400 + 700 * x)
    const before = once.samples.slice()
    const { samples } = await done(once, { do: 'light', stops: 1 })
    for (let i = 0; i < 90; i++) expect(light(samples[i]) / light(before[i])).toBeCloseTo(2, 2)
    const dark = await done(
      canvas(2, 1, () => 50_000),
      { do: 'light', stops: -1 },
    )
    expect(light(dark.samples[0]) / light(50_000)).toBeCloseTo(0.5, 3)
  })

  test('what is lighter than white is white', async () => {
    expect(
      pixel(
        await done(
          canvas(1, 1, () => 60_000),
          { do: 'light', stops: 3 },
        ),
        0,
        0,
      ),
    ).toEqual([65535, 65535, 65535])
  })
})

describe('colour and tones', () => {
  const tinted = () => canvas(20, 20, (_x, _y, c) => [30_000, 26_000, 20_000][c])

  test('a neutral place is grey and as light as before, after the steps before it', async () => {
    const made = await done(tinted(), { do: 'light', stops: 0.5 }, { do: 'neutral', at: [10, 10], radius_px: 4 })
    const [r, g, b] = pixel(made, 10, 10)
    expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThanOrEqual(2)
    expect(luminance([r, g, b]) / luminance([30_000, 26_000, 20_000])).toBeCloseTo(Math.SQRT2, 3)
  })

  test('without colour all is grey, of the same light; as it is nothing changes', async () => {
    const grey = pixel(await done(tinted(), { do: 'colour', strength: 0 }), 3, 3)
    expect(grey[0]).toBe(grey[2])
    expect(light(grey[0])).toBeCloseTo(luminance([30_000, 26_000, 20_000]), 4)
    const same = await done(tinted(), { do: 'colour', strength: 1 })
    pixel(same, 3, 3).forEach((value, c) => expect(Math.abs(value - [30_000, 26_000, 20_000][c])).toBeLessThanOrEqual(1))
  })

  test('a rung moves its tone by as many stops, and keeps the hue', async () => {
    const step: Step = { do: 'tones', points: [[-8, -8], [-4, -3.6], [0, 0]] } // prettier-ignore
    const sample = Math.round(65535 * (1.055 * 2 ** (-4 / 2.4) - 0.055))
    const [grey] = pixel(
      await done(
        canvas(1, 1, () => sample),
        step,
      ),
      0,
      0,
    )
    expect(Math.log2(light(grey))).toBeCloseTo(-3.6, 2)
    expect(
      pixel(
        await done(
          canvas(1, 1, () => 65535),
          step,
        ),
        0,
        0,
      ),
    ).toEqual([65535, 65535, 65535])
    const before = [30_000, 26_000, 20_000].map(light)
    const after = pixel(await done(tinted(), step), 0, 0).map(light)
    expect(after[0] / after[1]).toBeCloseTo(before[0] / before[1], 3)
    expect(after[2] / after[1]).toBeCloseTo(before[2] / before[1], 3)
  })

  test('a ladder that rises gives a curve that rises, through all of its rungs', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ min: 0.05, max: 4, noNaN: true }), fc.double({ min: 0.01, max: 4, noNaN: true })), {
          minLength: 1,
          maxLength: 8,
        }),
        (steps) => {
          let [x, y] = [-16, -16]
          const points = steps.map(([dx, dy]): [number, number] => [(x += dx), (y += dy)])
          const curve = monotone(points)
          for (const [at, to] of points) expect(curve(at)).toBeCloseTo(to, 9)
          for (let at = -18, last = -Infinity; at < x + 1; at += 0.05) {
            expect(curve(at)).toBeGreaterThanOrEqual(last - 1e-9)
            last = curve(at)
          }
        },
      ),
      { numRuns: 50 },
    ))
})

describe('places', () => {
  const grey = (width = 60, height = 40, change: Partial<Canvas> = {}) => canvas(width, height, () => 30_000, change)
  const stopsAt = (made: Canvas, x: number, y: number) => Math.log2(light(pixel(made, x, y)[0]) / light(30_000))

  test('a line has all of it at and beyond its beginning, none at and beyond its end, half midway', async () => {
    const made = await done(grey(), { do: 'gradient', from: [10, 0], to: [50, 0], stops: -1.5 })
    expect([0, 10].map((x) => stopsAt(made, x, 20))).toEqual([expect.closeTo(-1.5, 2), expect.closeTo(-1.5, 2)])
    expect(stopsAt(made, 30, 5)).toBeCloseTo(-0.75, 2)
    expect([50, 59].map((x) => pixel(made, x, 20)[0])).toEqual([30_000, 30_000])
    const slant = await done(grey(), { do: 'gradient', from: [20, 10], to: [40, 30], stops: 1 })
    // Across the line it is the same all along.
    expect(pixel(slant, 40, 10)).toEqual(pixel(slant, 20, 30))
  })

  test('along the depth it goes by the depth of each place', async () => {
    const depth = { width: 60, height: 40, data: Uint16Array.from({ length: 2400 }, (_, i) => Math.round((65535 * (i % 60)) / 59)) }
    const made = await done(grey(60, 40, { depth }), { do: 'depthGradient', from: 1, to: 0.5, stops: -0.8 })
    expect(stopsAt(made, 59, 3)).toBeCloseTo(-0.8, 2)
    expect(pixel(made, 20, 3)[0]).toBe(30_000)
    expect(stopsAt(made, 44, 3)).toBeGreaterThan(-0.5)
    await expect(done(grey(), { do: 'depthGradient', from: 0, to: 1, stops: 1 })).rejects.toMatchObject({ code: 'finish.noDepth' })
  })

  test('by hand it acts within its radius, and only at the depths of its gate', async () => {
    const depth = { width: 60, height: 40, data: Uint16Array.from({ length: 2400 }, (_, i) => (i % 60 < 30 ? 0 : 65535)) }
    const hand: Step = { do: 'local', path: [[22, 20], [38, 20]], radius_px: 8, softness: 0.5, stops: -0.7 } // prettier-ignore
    const made = await done(grey(60, 40, { depth }), hand)
    expect([stopsAt(made, 25, 20), stopsAt(made, 35, 20)]).toEqual([expect.closeTo(-0.7, 2), expect.closeTo(-0.7, 2)])
    expect([pixel(made, 30, 30)[0], pixel(made, 5, 20)[0]]).toEqual([30_000, 30_000])
    const gated = await done(grey(60, 40, { depth }), { ...hand, gate: { near: 0.5, far: 1 } })
    expect(pixel(gated, 25, 20)[0]).toBe(30_000)
    expect(stopsAt(gated, 35, 20)).toBeCloseTo(-0.7, 2)
  })
})

describe('shape', () => {
  test('a crop is exact to the pixel, and its maps with it', async () => {
    const depth = { width: 30, height: 20, data: Uint16Array.from({ length: 600 }, (_, i) => i) }
    const made = await done(
      canvas(30, 20, (x, y, c) => 1000 * x + 10 * y + c, { depth }),
      { do: 'crop', x: 4, y: 7, width: 9, height: 5 },
    )
    expect([made.width, made.height, made.samples.length, made.depth!.data.length]).toEqual([9, 5, 135, 45])
    expect(pixel(made, 8, 4)).toEqual([12_110, 12_111, 12_112])
    expect(made.depth!.data[0]).toBe(7 * 30 + 4)
    await expect(done(made, { do: 'crop', x: 1, y: 0, width: 9, height: 5 })).rejects.toMatchObject({ code: 'finish.cropOutside' })
  })

  test('turned clockwise, what leaned to the left stands upright', async () => {
    // A line that leans to the left by 5 degrees: its head lies left of its foot.
    const lean = Math.tan((5 * Math.PI) / 180)
    const leaning = canvas(121, 121, (x, y) => 60_000 - 40_000 * Math.exp(-((x - 60 + (60 - y) * lean) ** 2) / 8))
    const made = await done(leaning, { do: 'straighten', degrees: 5 })
    const middle = (made.width - 1) / 2
    const darkest = (y: number) =>
      Array.from({ length: made.width }, (_, x) => pixel(made, x, y)[0]).reduce((best, v, x, all) => (v < all[best] ? x : best), 0)
    expect([darkest(4), darkest(made.height - 5)]).toEqual([expect.closeTo(middle, -0.3), expect.closeTo(middle, -0.3)])
    expect([made.width, made.height]).toEqual(Object.values(uprightWithin(121, 121, 5)))
    expect(await done(leaning, { do: 'straighten', degrees: 0 })).toMatchObject({ width: 121, height: 121 })
  })

  test('sizes are those asked for; nothing is made of no pixels, or of more than readers take', async () => {
    expect(sizeOf({ long_px: 2400 }, 6000, 4000)).toEqual({ width: 2400, height: 1600 })
    expect(sizeOf({ width_mm: 300, perInch: 300 }, 6000, 4000)).toEqual({ width: 3543, height: 2362 })
    for (const long_px of [0, 200_000]) expect(() => sizeOf({ long_px }, 60, 40)).toThrow(expect.objectContaining({ code: 'finish.size' }))
    const made = await done(
      canvas(60, 40, () => 30_000),
      { do: 'size', long_px: 30 },
    )
    expect([made.width, made.height, made.scale]).toEqual([30, 20, 0.5])
    expect(Math.abs(pixel(made, 3, 3)[1] - 30_000)).toBeLessThan(8)
  })

  test('a scale bar is as long as its length, at the size that the picture has by then', async () => {
    const bar: Step = { do: 'scaleBar', pixel_mm: 0.01, length_mm: 2 }
    const longest = ({ samples, width, height }: Canvas) => {
      let most = 0
      for (let y = 0; y < height; y++)
        for (let x = 0, run = 0; x < width; x++) most = Math.max(most, (run = samples[3 * (y * width + x)] === 65535 ? run + 1 : 0))
      return most
    }
    expect(
      longest(
        await done(
          canvas(600, 400, () => 20_000),
          bar,
        ),
      ),
    ).toBe(200)
    expect(
      longest(
        await done(
          canvas(600, 400, () => 20_000),
          { do: 'size', long_px: 300 },
          bar,
        ),
      ),
    ).toBe(100)
    await expect(
      done(
        canvas(60, 40, () => 0),
        bar,
      ),
    ).rejects.toMatchObject({ code: 'finish.barLength' })
  })
})
