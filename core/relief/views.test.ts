import { rockingPlaces, seenFromAside } from '.'

const [width, height] = [40, 3]
/** A wall whose every place has a colour of its own. */
const samples = Uint8Array.from({ length: width * height * 3 }, (_, i) => (i % 3 === 0 ? 3 * (Math.floor(i / 3) % width) : 7))
const flat = (value: number) => new Uint16Array(width * height).fill(value)
const redOf = (picture: Uint8Array, x: number, y = 1) => picture[3 * (y * width + x)]

test('seen from the front nothing changes, whatever its depth', () => {
  const depth = Uint16Array.from({ length: width * height }, (_, i) => (i * 977) % 65536)
  expect(seenFromAside({ width, height, samples, depth }, 0)).toEqual(samples)
})

test('what is near moves to the left by half the shift, what is far to the right, to the pixel', () => {
  const near = seenFromAside({ width, height, samples, depth: flat(0) }, 8)
  for (let x = 0; x < width - 4; x++) expect(redOf(near, x)).toBe(3 * (x + 4))
  const far = seenFromAside({ width, height, samples, depth: flat(65535) }, 8)
  for (let x = 4; x < width; x++) expect(redOf(far, x)).toBe(3 * (x - 4))
  // Where nothing moves to, the edge goes on.
  expect(redOf(far, 0)).toBe(0)
  expect(redOf(near, width - 1)).toBe(3 * (width - 1))
})

test('a post covers what is behind it, and what it uncovers is ground, not post', () => {
  const depth = flat(65535)
  const picture = samples.slice()
  for (let y = 0; y < height; y++)
    for (let x = 18; x < 22; x++) {
      depth[y * width + x] = 0
      picture.set([255, 255, 255], 3 * (y * width + x))
    }
  const seen = seenFromAside({ width, height, samples: picture, depth }, 8)
  const white = Array.from({ length: width }, (_, x) => x).filter((x) => redOf(seen, x) === 255)
  expect(white).toEqual([14, 15, 16, 17])
  // Ground moved 4 px to the right: some of it comes out from behind the post, and where none was seen the farther side goes on.
  for (let x = 18; x < 22; x++) expect(redOf(seen, x)).toBe(3 * (x - 4))
  for (let x = 22; x < 26; x++) expect([17 * 3, 22 * 3]).toContain(redOf(seen, x))
  expect(redOf(seen, 13)).toBe(9 * 3)
  expect(redOf(seen, 26)).toBe(22 * 3)
})

test('rocking goes once to and fro and comes back', () => {
  const places = rockingPlaces(24)
  expect(places).toHaveLength(24)
  expect(Math.max(...places)).toBeCloseTo(1)
  expect(Math.min(...places)).toBeCloseTo(-1)
  expect(places[0]).toBeCloseTo(0)
  expect(places[12]).toBeCloseTo(0)
})
