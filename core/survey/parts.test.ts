import fc from 'fast-check'
import { createPicture, createPlane, type Plane } from '../raster'
import { median, quantile } from '../statistics'
import { flawsOf } from './flaws'
import { frameFacts, TILES, type FrameFacts } from './frameFacts'
import { agreement, apart, focusOrder, profilesOf } from './order'

/** Frames whose tiles are sharp at depths spread over `depths`, as a focus that moves through `positions` sees them. */
function series(positions: number[], depths: (tile: number) => number, width = 1.2): FrameFacts[] {
  const count = TILES.across * TILES.down
  return positions.map((position) => ({
    luma: createPlane(36, 24),
    means: [0.5, 0.5, 0.5],
    clipped: 0,
    black: 0,
    detail: { fine: createPlane(4, 3), coarse: createPlane(4, 3) },
    sharpness: Float64Array.from({ length: count }, (_, tile) => 1e-6 + 1e-3 / (1 + ((position - depths(tile)) / width) ** 4)),
    motif: motif((x, y) => Math.sin(x) + Math.cos(y * 1.7)),
  }))
}

function motif(value: (x: number, y: number) => number): Plane {
  const plane = createPlane(18, 12)
  for (let i = 0; i < plane.data.length; i++) plane.data[i] = 0.5 + 0.1 * value(i % 18, Math.floor(i / 18))
  return plane
}

const even = (count: number, from = 0, step = 1) => Array.from({ length: count }, (_, k) => from + k * step)
const spread = (from: number, to: number) => (tile: number) => from + ((tile * 37) % 216) * ((to - from) / 215)

describe('focus order', () => {
  test('is found for every permutation, up to its direction', () => {
    fc.assert(
      fc.property(fc.integer({ min: 8, max: 24 }), fc.integer(), (count, seed) => {
        const places = even(count)
        const shuffled = places.map((place) => ({ place, key: Math.imul(place + 1, seed | 1) >>> 0 })).sort((a, b) => a.key - b.key)
        const frames = series(
          shuffled.map(({ place }) => place),
          spread(1, count - 2),
          3,
        )
        const found = focusOrder(profilesOf(frames)).map((k) => shuffled[k].place)
        expect(found[0] < found[1] ? found : found.reverse()).toEqual(places)
      }),
      { numRuns: 60, seed: 3 },
    )
  })

  test('of two frames is as they come', () => expect(focusOrder(profilesOf(series([0, 5], spread(0, 5))))).toEqual([0, 1]))

  test('profiles of frames farther from one another differ more', () => {
    const { rows } = profilesOf(series(even(10), spread(1, 8)))
    expect(apart(rows[4], rows[4])).toBe(0)
    expect(apart(rows[4], rows[6])).toBeGreaterThan(apart(rows[4], rows[5]))
  })

  test('tiles that show nothing of the focus do not count', () => {
    const frames = series(even(8), (tile) => (tile < 20 ? tile % 8 : 1000))
    expect(profilesOf(frames).tiles.every((tile) => tile < 20)).toBe(true)
  })
})

describe('flaws', () => {
  const frames = () => series(even(9), spread(1, 7))
  const codes = (list: FrameFacts[]) => flawsOf(list).map((flaw) => flaw?.code)

  test('a clean series has none', () => expect(codes(frames()).every((code) => code === undefined)).toBe(true))

  test.each([
    ['dark', { means: [0.3, 0.3, 0.3] }],
    ['bright', { means: [0.7, 0.7, 0.7] }],
    ['colour', { means: [0.55, 0.5, 0.46] }],
    ['other-motif', { motif: motif((x) => x / 18) }],
  ] as const)('%s', (code, change) => {
    const list = frames()
    list[4] = { ...list[4], ...(change as unknown as Partial<FrameFacts>) }
    expect(codes(list)).toEqual([undefined, undefined, undefined, undefined, code, undefined, undefined, undefined, undefined])
  })

  test('shaken: duller in most parts than before and after; not claimed where names are shuffled', () => {
    const list = series(even(9), spread(1, 7), 3)
    list[4] = { ...list[4], sharpness: list[4].sharpness.map((value) => value * 0.25) }
    expect(codes(list)[4]).toBe('shaken')
    const order = [2, 7, 4, 0, 5, 8, 1, 6, 3]
    expect(codes(order.map((k) => list[k]))).toEqual(order.map(() => undefined))
  })

  test('in a deep view in few frames a shaken one is a little duller nearly everywhere; the ends are not taken for it', () => {
    const deep = () =>
      series(even(4), spread(0, 3), 8).map((frame) => ({ ...frame, sharpness: frame.sharpness.map((value, tile) => (tile % 12 ? value : 1e-6)) }))
    expect(codes(deep())).toEqual([undefined, undefined, undefined, undefined])
    const shaken = (at: number, by = 0.8) =>
      deep().map((frame, k) => (k === at ? { ...frame, sharpness: frame.sharpness.map((value) => value * by) } : frame))
    expect(codes(shaken(1))).toEqual([undefined, 'shaken', undefined, undefined])
    expect(codes(shaken(2))).toEqual([undefined, undefined, 'shaken', undefined])
    // So much that its tiles alone look as if focus had passed through them.
    expect(codes(shaken(2, 0.2))).toEqual([undefined, undefined, 'shaken', undefined])
    expect(codes(shaken(0))).toEqual([undefined, undefined, undefined, undefined])
  })

  test('a frame beyond the subject is dull, but did not shake', () => {
    const list = series(even(12, -2), spread(2, 7))
    expect(codes(list).every((code) => code === undefined)).toBe(true)
  })
})

describe('facts of a frame', () => {
  test('texture is sharp where it is, flat parts are not', () => {
    const picture = createPicture(180, 120)
    for (const { data } of picture.planes) for (let i = 0; i < data.length; i++) data[i] = i % 180 < 90 ? 0.5 : 0.3 + 0.4 * ((i >> 1) & 1)
    const { sharpness, means, clipped } = frameFacts(picture)
    expect(sharpness[3]).toBeLessThan(1e-9)
    expect(sharpness[TILES.across - 3]).toBeGreaterThan(1e-4)
    expect(means[0]).toBeCloseTo(0.5, 1)
    expect(clipped).toBe(0)
  })

  test('clipped and black parts are counted', () => {
    const picture = createPicture(60, 40)
    for (const { data } of picture.planes) data.fill(1, 0, data.length / 4)
    expect(frameFacts(picture)).toMatchObject({ clipped: 0.25, black: 0.75 })
  })
})

test('ranks agree from −1 to 1; quantiles are values of the list', () => {
  expect(agreement([1, 2, 3])).toBe(1)
  expect(agreement([3, 2, 1])).toBe(-1)
  expect(Math.abs(agreement([2, 1, 4, 3, 0]))).toBeLessThan(0.5)
  expect(median([5, 1, 3])).toBe(3)
  expect(quantile([1, 2, 3, 4], 1)).toBe(4)
})
