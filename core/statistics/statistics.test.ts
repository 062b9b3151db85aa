import { deviation, mean, normalShare } from '.'

test.each([
  [0, 0.5],
  [1, 0.841344746],
  [-1.959963985, 0.025],
  [3, 0.998650102],
])('of a normal distribution the share below %d is %d', (x, share) => expect(normalShare(x)).toBeCloseTo(share, 6))

test('mean and deviation of a sample', () => {
  expect(mean([2, 4, 4, 4, 5, 5, 7, 9])).toBe(5)
  expect(deviation([2, 4, 4, 4, 5, 5, 7, 9])).toBeCloseTo(Math.sqrt(32 / 7), 12)
  expect(deviation([3])).toBe(0)
})
