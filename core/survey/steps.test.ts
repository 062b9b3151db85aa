import { usualStep } from './steps'

const repeated = (times: number) => [1.02, 0.97, 1.01].flatMap((step) => [step, ...Array.from({ length: times - 1 }, (_, k) => 0.01 * Math.sin(k))])

test.each([
  ['even steps', [1, 0.96, 1.05, 1.01], 1],
  ['a gap among them', [1, 1, 1, 9, 1, 1, 1, 1], 1],
  ['a repeated frame or two', [1, 0, 1, 1, 0.01, 1, 1], 1],
  ['every frame sixteen times', repeated(16), 1.01],
  ['every frame three times', repeated(3), 1.01],
])('the usual step of %s', (_, steps, usual) => {
  expect(usualStep(steps)).toBeCloseTo(usual, 1)
})

test('where nothing moved at all no step is usual', () => {
  expect(usualStep([0, 0, 0])).toBe(1e-9)
})
