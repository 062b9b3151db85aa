import { findSets, type Offset } from '.'
import { FOUR, SIXTEEN } from './testCaptures'

/** A picture of something else. */
const NOWHERE: Offset = { x_px: 9.3, y_px: 4.2, otherwise_px: 8 }

/** Files `<k>` taken with the sensor there; what else moved between them is told by `otherwise`. */
function series(places: [number, number][], frames: number, otherwise = 0.5) {
  const files = Array.from({ length: places.length * frames }, (_, k) => `${k}.dng`)
  let asked = 0
  const offsetsOf = (some: string[]) => {
    asked += some.length
    const at = (file: string) => {
      const k = parseInt(file)
      const [x, y] = places[k % places.length]
      return { x: x + 0.03 * Math.sin(k), y: y + 0.03 * Math.cos(k), frame: Math.floor(k / places.length) }
    }
    const first = at(some[0])
    return Promise.resolve(
      some.map(at).map(({ x, y, frame }) => ({ x_px: x - first.x, y_px: y - first.y, otherwise_px: Math.abs(frame - first.frame) * otherwise })),
    )
  }
  return { files, offsetsOf, asked: () => asked }
}

test.each([
  ['four', FOUR, 1],
  ['eight', [...FOUR, ...FOUR], 1],
  ['sixteen', SIXTEEN, 2],
  ['thirty-two', [...SIXTEEN, ...SIXTEEN], 2],
] as const)('captures by %s are told, each set with its own files', async (_, places, finer) => {
  const { files, offsetsOf } = series([...places], 5)
  const found = (await findSets(files, offsetsOf))!
  expect(found).toMatchObject({ finer, places })
  expect(found.sets).toHaveLength(5)
  expect(found.sets.flat()).toEqual(files)
})

test('a set that broke off is a frame of fewer captures', async () => {
  const { files, offsetsOf } = series(FOUR, 4)
  const found = (await findSets(files.slice(0, 14), offsetsOf))!
  expect(found.sets.map((set) => set.length)).toEqual([4, 4, 4, 2])
})

test('test shots before the first set are frames of their own', async () => {
  for (const places of [FOUR, SIXTEEN])
    for (const shots of [1, 3]) {
      const { files, offsetsOf } = series(places, 4)
      const before = Array.from({ length: shots }, (_, k) => `test ${k}.dng`)
      const seen = (some: string[]) => (some.some((file) => file.startsWith('test')) ? Promise.resolve(some.map(() => NOWHERE)) : offsetsOf(some))
      const found = (await findSets([...before, ...files], seen))!
      expect(found).toMatchObject({ places, finer: places.length === 4 ? 1 : 2 })
      expect(found.before).toEqual(before)
      expect(found.sets.map((set) => set.length)).toEqual(Array(4).fill(places.length))
      expect(found.sets.flat()).toEqual(files)
    }
})

test('a series of single frames is none, after a look at three of them', async () => {
  const { files, offsetsOf, asked } = series([[0, 0]], 40)
  expect(await findSets(files, offsetsOf)).toBeUndefined()
  expect(asked()).toBe(4)
})

test('frames that lie on halves by chance, or in other ways each time, are none', async () => {
  const still = series([[0, 0]], 12, 0)
  expect(await findSets(still.files, still.offsetsOf)).toBeUndefined()
  const wandering = series([...FOUR, [0, 0], [0, 1], [1, 0], [1, 1], [2, 0], [0, 0], [1, 0], [3, 1]], 1, 0)
  expect(await findSets(wandering.files, wandering.offsetsOf)).toBeUndefined()
  expect(await findSets(['0.dng', '1.dng'], still.offsetsOf)).toBeUndefined()
})
