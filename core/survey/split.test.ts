import { createPlane, type Plane } from '../raster'
import { splitCard, type CardFrame } from './split'

/** A coarse picture of thing `kind`; `haze` flattens it as defocus or a failing light would. */
function motif(kind: number, haze = 0): Plane {
  const plane = createPlane(12, 8)
  plane.data.forEach((_, i) => (plane.data[i] = 0.5 + (0.3 - haze) * Math.sin(i * (0.7 + 0.61 * kind) + kind)))
  return plane
}

let second = 0
const frame = (kind: number, change: Partial<CardFrame> = {}, wait_s = 4): CardFrame => {
  second += wait_s
  return {
    file: `f${second}`,
    taken_ms: second * 1000,
    fNumber: 8,
    focalLength_mm: 100,
    width: 600,
    height: 400,
    motif: motif(kind, (second % 3) * 0.05),
    ...change,
  }
}
const run = (kind: number, count: number, change?: Partial<CardFrame>) => Array.from({ length: count }, () => frame(kind, change))
const reasons = (frames: CardFrame[]) => splitCard(frames).series.map(({ reasonCode }) => reasonCode ?? '')
const sizes = (frames: CardFrame[]) => splitCard(frames).series.map(({ files }) => files.length)

test('one run stays whole', () => {
  expect(sizes(run(1, 9))).toEqual([9])
  expect(splitCard([])).toEqual({ series: [], dividers: [] })
  expect(sizes([frame(1)])).toEqual([1])
})

test('a hand between two runs of one motif divides them and belongs to neither', () => {
  const frames = [...run(1, 6), frame(5), ...run(1, 5)]
  expect(splitCard(frames)).toMatchObject({ dividers: [frames[6].file] })
  expect(sizes(frames)).toEqual([6, 5])
  expect(reasons(frames)).toEqual(['', 'split.divider'])
})

test('a divider may stand at both ends of the card', () => {
  const frames = [frame(5), ...run(1, 4), frame(5), frame(5)]
  expect(splitCard(frames).dividers).toHaveLength(3)
  expect(sizes(frames)).toEqual([4])
})

test('another motif, aperture, lens, size or a long pause begins another series, and the reason says which', () => {
  expect(reasons([...run(1, 4), ...run(2, 4)])).toEqual(['', 'split.motif'])
  expect(reasons([...run(1, 4), ...run(1, 4, { fNumber: 11 })])).toEqual(['', 'split.aperture'])
  expect(reasons([...run(1, 4), ...run(1, 4, { focalLength_mm: 60 })])).toEqual(['', 'split.focalLength'])
  expect(reasons([...run(1, 4), ...run(1, 4, { width: 400, height: 600 })])).toEqual(['', 'split.size'])
  expect(reasons([...run(1, 4), frame(1, {}, 900), ...run(1, 3)])).toEqual(['', 'split.pause'])
})

test('slow runs are not torn apart: a pause counts against the usual interval', () => {
  const slow = Array.from({ length: 6 }, () => frame(1, {}, 60))
  expect(sizes([...slow, frame(1, {}, 200), frame(1, {}, 60), frame(1, {}, 60)])).toEqual([9])
})

test('files without a time or settings are split by what they show', () => {
  const bare = { taken_ms: undefined, fNumber: undefined, focalLength_mm: undefined }
  expect(sizes([...run(1, 3, bare), ...run(4, 5, bare)])).toEqual([3, 5])
})
