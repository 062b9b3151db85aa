import { noiseOf, quietOf } from './noise'

const energies = (of: (x: number, y: number) => number) => Float32Array.from({ length: 160 * 160 }, (_, i) => of(i % 160, Math.floor(i / 160)))

test('the quietest tiles tell the noise, whatever detail stands elsewhere', () => {
  const quiet = noiseOf(
    energies(() => 1e-4),
    160,
    160,
  )
  expect(quiet).toBeCloseTo(6e-4, 7)
  expect(
    noiseOf(
      energies((x) => (x < 40 ? 1e-4 : 0.3)),
      160,
      160,
    ),
  ).toBeCloseTo(quiet, 7)
})

test('more noise counts as more, and none never as nothing', () => {
  expect(
    noiseOf(
      energies(() => 4e-4),
      160,
      160,
    ),
  ).toBeGreaterThan(
    3 *
      noiseOf(
        energies(() => 1e-4),
        160,
        160,
      ),
  )
  expect(
    noiseOf(
      energies(() => 0),
      160,
      160,
    ),
  ).toBe(2e-5)
  expect(noiseOf(new Float32Array(9), 3, 3)).toBe(2e-5)
})

test('a dark frame that is brought up has more noise, a bright one less, and small differences do not count', () => {
  expect(quietOf(1)).toBe(1)
  expect(quietOf(1.1)).toBe(1)
  expect(quietOf(2)).toBeCloseTo(1 / 8, 9)
  expect(quietOf(2) * quietOf(0.5)).toBeCloseTo(1, 9)
})
