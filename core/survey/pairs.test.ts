import { createPicture } from '../raster'
import { frameFacts, type FrameFacts } from './frameFacts'
import { Pairs } from './pairs'

/** Soft blobs, moved by so many px. */
function frame(dx: number): FrameFacts {
  const picture = createPicture(200, 140)
  picture.planes.forEach(({ data }) =>
    data.forEach((_, i) => {
      const [x, y] = [(i % 200) - dx, Math.floor(i / 200)]
      data[i] = 0.5 + 0.2 * Math.sin(x * 0.31 + y * 0.07) + 0.2 * Math.cos(y * 0.23 - x * 0.05)
    }),
  )
  return frameFacts(picture)
}

test('a pair is measured once, a frame made ready once', () => {
  const pairs = new Pairs()
  const [a, b] = [frame(0), frame(2)]
  const found = pairs.between(a, b)
  expect(found.motion.dx_px).toBeCloseTo(2, 1)
  expect(pairs.between(a, b)).toBe(found)
  expect(pairs.preparedOf(a)).toBe(pairs.preparedOf(a))
})

test('of very many frames those asked for longest ago are made anew, to the same effect', () => {
  const pairs = new Pairs()
  const first = frame(0)
  const before = pairs.preparedOf(first)
  for (let k = 0; k < 30; k++) pairs.preparedOf(frame(k))
  const after = pairs.preparedOf(first)
  expect(after).not.toBe(before)
  expect(after.levels[0].points).toEqual(before.levels[0].points)
})
