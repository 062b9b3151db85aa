import { createPlane, IDENTITY, luma, toInterleaved16, type Plane, type Similarity } from '../raster'
import { randomStream, SimulatedSeries, specksOf, type Fault } from '../simulate'
import { DustFinder, withoutDust, type FoundDust } from '.'

const [WIDTH, HEIGHT] = [480, 320]
const DUSTY: Fault[] = [{ kind: 'dust', specks: 4 }]

function series(scene: string, seed: number, faults: Fault[], { count = 12, stride_mm = 2.2, magnification = 0.5 } = {}): SimulatedSeries {
  return new SimulatedSeries({
    scene,
    seed,
    camera: { sensorWidth_mm: 36, width_px: WIDTH, height_px: HEIGHT, focalLength_mm: 100, fNumber: 5.6, magnification, mover: 'ring' },
    positions_mm: Array.from({ length: count }, (_, k) => -1 + stride_mm * k),
    unsteadiness: { shift_px: 0.7, rotation_deg: 0.03, exposure_ev: 0.02 },
    fullWell: 30_000,
    faults,
  })
}

/** What was found in series that several tests look at. */
const searched = new Map<string, FoundDust>()
function search(scene: string, seed: number, faults: Fault[]): FoundDust {
  const key = JSON.stringify([scene, seed, faults])
  if (!searched.has(key)) searched.set(key, found(series(scene, seed, faults)))
  return searched.get(key)!
}

function found(shot: SimulatedSeries): FoundDust {
  const finder = new DustFinder()
  const motions: Similarity[] = []
  for (let k = 0; k < shot.count; k++) {
    const { picture, motion } = shot.shoot(k)
    finder.add(luma(picture))
    motions.push(motion)
  }
  return finder.finish(motions)
}

test('specks are found where they are, with how much light they take', () => {
  const found = search('bowl', 13, DUSTY)
  const real = specksOf(4, randomStream(13 + 99))
  const hit = real.filter(({ x, y, radius }) => found.specks.some((speck) => Math.hypot(speck.x - x * WIDTH, speck.y - y * HEIGHT) < radius * WIDTH))
  expect(hit.length).toBeGreaterThanOrEqual(3)
  expect(found.specks.length).toBeLessThanOrEqual(4)
  // They take half the light.
  for (const { darkness } of found.specks) expect(Math.abs(darkness - 0.5)).toBeLessThan(0.1)
})

test.each([
  ['fossil', 12],
  ['nib', 21],
])('specks over the texture of %s are found, and nothing else', (scene, seed) => {
  const { specks } = search(scene, seed, DUSTY)
  const real = specksOf(4, randomStream(seed + 99))
  const isReal = (speck: { x: number; y: number }) =>
    real.some(({ x, y, radius }) => Math.hypot(speck.x - x * WIDTH, speck.y - y * HEIGHT) < radius * WIDTH)
  expect(specks.filter(isReal).length).toBeGreaterThanOrEqual(3)
  expect(specks.filter((speck) => !isReal(speck))).toEqual([])
})

test.each(['bowl', 'fossil', 'nib'])('in a clean series of %s nothing is taken for dust', (scene) => {
  expect(search(scene, 12, []).specks).toEqual([])
})

test.each([
  ['fossil', 10, 5, 1.6],
  ['nib', 10, 5, 1.6],
  // A dark place as wide as two specks.
  ['nib', 925, 7, 2.4],
])('nor in a few frames of %s with the seed %d whose slices do not touch', (scene, seed, count, stride_mm) => {
  expect(found(series(scene, seed, [], { count, stride_mm, magnification: 1 })).specks).toEqual([])
})

test('a spot on the subject that stays sharp and still is not taken for dust', () => {
  const finder = new DustFinder()
  for (let k = 0; k < 12; k++) finder.add(spotted(0.3))
  expect(finder.finish(Array.from({ length: 12 }, () => IDENTITY)).specks).toEqual([])
})

/** An even grey with a dark disc. */
function spotted(darkness: number): Plane {
  const plane = createPlane(64, 64)
  for (let i = 0; i < plane.data.length; i++) plane.data[i] = Math.hypot((i % 64) - 30, Math.floor(i / 64) - 33) < 4 ? 0.5 * (1 - darkness) : 0.5
  return plane
}

test('a frame is cleaned: what is beneath a speck is as bright as it was, and beside it nothing changes', () => {
  const dusty = series('bowl', 13, DUSTY)
  const found = search('bowl', 13, DUSTY)
  const clean = toInterleaved16(series('bowl', 13, []).shoot(5).picture)
  const before = toInterleaved16(dusty.shoot(5).picture)
  const after = before.slice()
  withoutDust(after, WIDTH, HEIGHT, found)
  const covered = new Uint8Array(WIDTH * HEIGHT)
  for (const { left, top, width, height } of found.specks)
    for (let y = top; y < top + height; y++) covered.fill(1, y * WIDTH + left, y * WIDTH + left + width)
  const error = (samples: Uint16Array) => {
    let [sum, count] = [0, 0]
    samples.forEach((value, i) => {
      if (!covered[Math.floor(i / 3)]) return
      sum += (value - clean[i]) ** 2
      count++
    })
    return Math.sqrt(sum / count) / 65535
  }
  expect(found.specks.length).toBeGreaterThanOrEqual(3)
  expect(error(after)).toBeLessThan(0.35 * error(before))
  after.forEach((value, i) => {
    if (!covered[Math.floor(i / 3)] && value !== before[i]) throw new Error(`changed beside the specks at ${i}`)
  })
})
