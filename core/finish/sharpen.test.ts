import type { Canvas } from '.'
import { canvas, done, pixel, SRGB } from './testCanvas'

describe('sharpening', () => {
  const edge = (change: Partial<Canvas> = {}) =>
    canvas(50, 40, (x, y, c) => (x + 0.3 * y < 30 ? 20_000 : 36_000) + 900 * c + ((x * 7 + y * 13) % 5) * 40, change)
  const step = { do: 'sharpen', radius_px: 1.2, amount: 0.6, threshold: 0.01 } as const

  test('adds what a plain blur of the luminance leaves, beyond the threshold, to all three channels', async () => {
    const before = edge()
    const made = await done(edge(), step)
    const [r, g, b] = SRGB.luminance
    const luma = (x: number, y: number) => {
      const [px, py] = [Math.min(49, Math.max(0, x)), Math.min(39, Math.max(0, y))]
      const [red, green, blue] = pixel(before, px, py)
      return (r * red + g * green + b * blue) / 65535
    }
    for (const [x, y] of [
      [24, 20],
      [26, 13],
      [0, 39],
      [49, 0],
      [21, 30],
    ] as const) {
      let [sum, all] = [0, 0]
      for (let v = -4; v <= 4; v++)
        for (let u = -4; u <= 4; u++) {
          const weight = Math.exp(-(u * u + v * v) / (2 * 1.44))
          sum += weight * luma(x + u, y + v)
          all += weight
        }
      const off = luma(x, y) - sum / all
      const add = Math.sign(off) * Math.max(0, Math.abs(off) - 0.01) * 0.6 * 65535
      pixel(made, x, y).forEach((value, c) => expect(Math.abs(value - pixel(before, x, y)[c] - add)).toBeLessThanOrEqual(2))
    }
  })

  test('spares what is not sharp', async () => {
    const confidence = { width: 50, height: 40, data: new Uint16Array(2000) }
    const before = edge().samples
    expect((await done(edge({ confidence }), step)).samples).toEqual(before)
  })
})
