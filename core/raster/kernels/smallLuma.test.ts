import { createPlane, narrowed } from '..'
import { SmallLuma } from '.'

test.each([255, 65535])('a small picture is the encoded luma of the samples, of 0 … %d, halved until it is narrow enough', (most) => {
  const [width, height] = [203, 117]
  const Kind = most === 255 ? Uint8Array : Uint16Array
  const samples = new Kind(width * height * 3).map((_, i) => (i * 7919 + (i >> 7) * 31) % (most + 1))
  const luma = createPlane(width, height)
  for (let i = 0; i < luma.data.length; i++)
    luma.data[i] = (0.2126 * samples[3 * i] + 0.7152 * samples[3 * i + 1] + 0.0722 * samples[3 * i + 2]) / most
  for (const [widest_px, size] of [
    [203, [203, 117]],
    [202, [102, 59]],
    [60, [51, 30]],
  ] as const) {
    const [small, wanted] = [new SmallLuma().of(samples, width, height, widest_px), narrowed(luma, widest_px)]
    expect([small.width, small.height]).toEqual(size)
    expect(Math.max(...small.data.map((value, i) => Math.abs(value - wanted.data[i])))).toBeLessThan(1e-5)
  }
})
