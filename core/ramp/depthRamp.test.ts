import { depthColour, depthCss, rampPlace } from '.'

/** Relative luminance of sRGB bytes, for reading in grey. */
function luminance([r, g, b]: number[]): number {
  const linear = (v: number) => (v / 255) ** 2.2
  return 0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b)
}

const steps = Array.from({ length: 65 }, (_, k) => k / 64)

test('reads in grey: every step is darker than the one before', () => {
  const light = steps.map((t) => luminance(depthColour(t)))
  light.slice(1).forEach((value, k) => expect(value).toBeLessThan(light[k]))
})

test('steps are even: lightness falls by the same amount, within a third', () => {
  const lightness = steps.map((t) => Math.cbrt(luminance(depthColour(t))))
  const falls = lightness.slice(1).map((value, k) => lightness[k] - value)
  const mean = falls.reduce((a, b) => a + b) / falls.length
  for (let k = 0; k < falls.length; k += 8) {
    const local = falls.slice(k, k + 8).reduce((a, b) => a + b) / 8
    expect(Math.abs(local / mean - 1)).toBeLessThan(0.34)
  }
})

test('reads without red–green vision: neighbours of nine steps stay apart when red and green are seen as one', () => {
  const seen = Array.from({ length: 9 }, (_, k) => {
    const [r, g, b] = depthColour(k / 8)
    return [0.3 * r + 0.7 * g, b]
  })
  seen.slice(1).forEach(([yellow, blue], k) => expect(Math.hypot(yellow - seen[k][0], blue - seen[k][1])).toBeGreaterThan(10))
})

test('values beyond the ends are clipped and no number is the near end', () => {
  expect(depthColour(-3)).toEqual(depthColour(0))
  expect(depthColour(7)).toEqual(depthColour(1))
  expect(depthColour(NaN)).toEqual(depthColour(0))
  expect(depthCss(0)).toMatch(/^rgb\(\d+ \d+ \d+\)$/)
})

test('frames are spread over the whole ramp; a single one stands in the middle', () => {
  expect(rampPlace(0, 5)).toBe(0)
  expect(rampPlace(4, 5)).toBe(1)
  expect(rampPlace(0, 1)).toBe(0.5)
})
