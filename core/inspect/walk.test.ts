import { walkByDepth } from '.'

const ramp = (width: number, height: number, depth: (x: number, y: number) => number) => ({
  width,
  height,
  data: Float32Array.from({ length: width * height }, (_, i) => depth(i % width, Math.floor(i / width))),
})

test('goes from the nearest view to the farthest', () => {
  const views = walkByDepth(
    ramp(40, 20, (x) => 40 - x),
    10,
    { width: 100, height: 200 },
  )
  expect(views.map(({ x }) => x)).toEqual([300, 200, 100, 0])
})

test('shows every px of the picture once, in views no larger than what is seen', () => {
  const views = walkByDepth(
    ramp(33, 21, (x, y) => x * y),
    7,
    { width: 60, height: 50 },
  )
  const seen = new Uint8Array(231 * 147)
  for (const { x, y, width, height } of views) {
    expect(width).toBeLessThanOrEqual(60)
    expect(height).toBeLessThanOrEqual(50)
    for (let v = y; v < y + height; v++) for (let u = x; u < x + width; u++) seen[v * 231 + u]++
  }
  expect(seen.every((times) => times === 1)).toBe(true)
})

test('one odd place does not make a view near', () => {
  const [first] = walkByDepth(
    ramp(20, 10, (x, y) => (x === 15 && y === 5 ? 0 : x < 10 ? 1 : 2)),
    1,
    { width: 10, height: 10 },
  )
  expect(first.x).toBe(0)
})
