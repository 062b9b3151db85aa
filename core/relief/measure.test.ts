import { measured, measuredAlong, reliefRise, surfaceOf, type SurfaceFacts } from '.'

/** A slope that falls away to the right by 4 mm over the whole width, 200 px of a picture 400 px wide. */
const [width, height] = [200, 100]
const slope = { width, height, data: Uint16Array.from({ length: width * height }, (_, i) => ((i % width) / (width - 1)) * 65535) }
const facts: SurfaceFacts = { unit: 'mm', at0: 0, at65535: 4, slices: [0, 1, 2, 3, 4], pixelSize: { size_mm: 0.01, at_mm: 0 } }
const sure = { width, height, data: new Uint16Array(width * height).fill(65535) }

test('a slope has its length, its height, and half a slice of doubt at each end', () => {
  const { across_px, across_mm, height: rise, straight_mm } = measured(surfaceOf(slope, sure, facts, 400), [100.5, 50], [300.5, 50])
  expect(across_px).toBe(200)
  expect(across_mm!.value).toBeCloseTo(2, 6)
  expect(rise.value).toBeCloseTo((-4 * 100) / 199, 3)
  expect(rise.uncertain).toBeCloseTo(Math.hypot(0.5, 0.5), 6)
  expect(straight_mm!.value).toBeCloseTo(Math.hypot(2, 400 / 199), 3)
})

test('what lies farther away is larger than it looks', () => {
  const surface = surfaceOf(slope, sure, { ...facts, pixelSize: { size_mm: 0.01, at_mm: 0, pupil_mm: 10 } }, 400)
  const middle = 199.5
  const { across_mm } = measured(surface, [middle, 99.5], [390.5, 99.5])
  // From the axis, where nothing shifts, to a place 191 px aside at its own depth.
  expect(across_mm!.value).toBeCloseTo(191 * 0.01 * (1 + (4 * 195) / 199 / 10), 4)
})

test('a length may be off by pointing, by the magnification, and by how deep its ends are', () => {
  const length = (of: Partial<SurfaceFacts>, from: [number, number], to: [number, number]) =>
    measured(surfaceOf(slope, sure, { ...facts, ...of }, 400), from, to).across_mm!
  const flat = length({}, [100, 99.5], [299, 99.5])
  expect(flat.uncertain).toBeCloseTo(Math.hypot(0.005 * Math.SQRT2, 0.005 * flat.value), 4)
  const pupil = { pixelSize: { size_mm: 0.01, at_mm: 0, pupil_mm: 10 } }
  // Half a slice, 0.5 mm, is 5 % of what a pixel shows; each end is 99.5 px from the axis.
  const deep = length(pupil, [100, 99.5], [299, 99.5])
  expect(deep.uncertain).toBeCloseTo(Math.hypot(0.005 * deep.value, 99.5 * 0.01 * 0.05, 99.5 * 0.01 * 0.05), 2)
  // Across the way to the axis depth shifts nothing along the length.
  const level = length(pupil, [390, 90], [390, 110])
  expect(level.uncertain).toBeLessThan(0.013)
})

test('where nothing is known in mm, pixels and frames are told, and no mm', () => {
  const found = measured(surfaceOf(slope, sure, { ...facts, unit: 'frames', pixelSize: undefined }, 400), [0, 0], [30, 40])
  expect(found.across_px).toBe(50)
  expect(found.across_mm).toBeUndefined()
  expect(found.straight_mm).toBeUndefined()
})

test('a doubtful place is more uncertain, up to three slices; a speck beside it decides nothing', () => {
  const doubtful = { ...sure, data: new Uint16Array(width * height).fill(65535 / 4) }
  const speck = { ...slope, data: slope.data.slice() }
  speck.data[50 * width + 100] = 0
  const { from, to } = measured(surfaceOf(speck, doubtful, facts, 400), [201, 101], [201, 101])
  expect(from).toEqual(to)
  expect(from.depth).toBeCloseTo((4 * 100) / 199, 2)
  expect(from.uncertain).toBeCloseTo(2, 2)
  const lost = { ...sure, data: new Uint16Array(width * height) }
  expect(measured(surfaceOf(slope, lost, facts, 400), [201, 101], [201, 101]).from.uncertain).toBe(3)
})

test('a profile goes along in mm, rises towards the camera, and carries its doubt', () => {
  const profile = measuredAlong(surfaceOf(slope, sure, facts, 400), [0.5, 50.5], [398.5, 50.5])
  expect(profile).toHaveLength(200)
  expect(profile.at(-1)!.along).toBeCloseTo(3.98, 6)
  expect(profile[0].height).toBeCloseTo(4, 1)
  expect(profile.at(-1)!.height).toBeCloseTo(0, 1)
  for (const { height: at, low, high } of profile) expect(high - at).toBeCloseTo(at - low, 9)
  expect(profile[0].high - profile[0].height).toBeCloseTo(0.5, 6)
})

test('a relief rises true to scale where mm are known, else by a third of the width', () => {
  expect(reliefRise(surfaceOf(slope, sure, facts, 400))).toBeCloseTo(100, 6)
  expect(reliefRise(surfaceOf(slope, sure, { ...facts, unit: 'frames', at65535: 8 }, 400))).toBeCloseTo(400 / 3 / 8, 6)
})
