import * as fc from 'fast-check'
import { createBend, createPlane, type Plane } from '../raster'
import { calmed } from './calmed'
import { componentsOf } from './components'
import { outlineOf } from './outline'

const [WIDTH, HEIGHT] = [80, 60]
const certainty = { sure_px: 3, likely_px: 1, leastShare: 0.002, leastOfPart: 0.1 }

/** A map of displacements: 0, but for boxes of so many px. */
function displaced(...boxes: [x: number, y: number, width: number, height: number, by_px: number][]): Plane {
  const plane = createPlane(WIDTH, HEIGHT)
  for (const [x, y, width, height, by_px] of boxes)
    for (let row = y; row < y + height; row++) plane.data.fill(by_px, row * WIDTH + x, row * WIDTH + x + width)
  return plane
}

describe('connected places', () => {
  const map = fc.integer({ min: 1, max: 9 }).chain((width) =>
    fc.record({
      width: fc.constant(width),
      values: fc
        .array(fc.integer({ min: -1, max: 2 }), { minLength: width, maxLength: 9 * width })
        .map((all) => all.slice(0, all.length - (all.length % width))),
      diagonal: fc.boolean(),
    }),
  )

  test('share a number exactly where a way of equal neighbours leads from one to the other', () => {
    fc.assert(
      fc.property(map, ({ width, values, diagonal }) => {
        const height = values.length / width
        const { group, count } = componentsOf(values, width, height, diagonal)
        // Another way to the same: each place takes the least number among its equal neighbours until nothing changes.
        const least = values.map((value, k) => (value < 0 ? -1 : k))
        for (let changed = true; changed;) {
          changed = false
          least.forEach((own, k) => {
            if (own < 0) return
            for (let other = 0; other < values.length; other++) {
              const [across, down] = [Math.abs((other % width) - (k % width)), Math.abs(Math.floor(other / width) - Math.floor(k / width))]
              const beside = diagonal ? across <= 1 && down <= 1 : across + down <= 1
              if (beside && values[other] === values[k] && least[other] < least[k]) [least[k], changed] = [least[other], true]
            }
          })
        }
        for (let a = 0; a < values.length; a++) for (let b = 0; b < a; b++) expect(group[a] === group[b]).toBe(least[a] === least[b])
        expect(new Set(group.filter((number) => number >= 0)).size).toBe(count)
      }),
      { numRuns: 60 },
    )
  })
})

describe('the outline of what moved', () => {
  const marked = (plane: Plane) => {
    const marks = outlineOf(plane, certainty)
    return (x: number, y: number) => marks[y * WIDTH + x]
  }

  test('is the part with a rim of one, where frames agree', () => {
    const at = marked(displaced([20, 20, 20, 15, 6]))
    expect([at(20, 20), at(39, 34), at(19, 25), at(40, 25)]).toEqual([1, 1, 1, 1])
    expect([at(17, 25), at(43, 25), at(30, 17), at(30, 38)]).toEqual([0, 0, 0, 0])
  })

  test('takes in what hangs together with what surely moved, and leaves what only sways', () => {
    const at = marked(displaced([20, 20, 10, 10, 6], [30, 20, 25, 10, 1.5], [5, 45, 30, 10, 1.5]))
    expect([at(25, 25), at(50, 25)]).toEqual([1, 1])
    expect(at(20, 50)).toBe(0)
  })

  test('leaves a part in which hardly anything surely moved, and specks', () => {
    const at = marked(displaced([10, 10, 60, 40, 1.5], [30, 30, 6, 6, 6]))
    expect([at(33, 33), at(15, 15)]).toEqual([0, 0])
    expect(marked(displaced([40, 30, 2, 2, 9]))(40, 30)).toBe(0)
  })

  test('bridges gaps that are narrow and fills holes that are small, but not a window through which what is still is seen', () => {
    const narrow = marked(displaced([10, 20, 20, 20, 6], [33, 20, 20, 20, 6]))
    expect(narrow(31, 30)).toBe(1)
    const plane = displaced([10, 5, 60, 50, 6])
    for (let y = 20; y < 40; y++) plane.data.fill(0, y * WIDTH + 30, y * WIDTH + 50)
    plane.data[50 * WIDTH + 15] = 0
    const at = marked(plane)
    expect([at(15, 50), at(40, 30), at(31, 21)]).toEqual([1, 0, 0])
  })
})

describe('a bend, where a part is shown from one frame', () => {
  const frame_px = { width: 400, height: 300 }
  /** Every place leans by its column; in the middle something flutters. */
  const bend = () => {
    const made = createBend(9, 7, frame_px.width, frame_px.height)
    made.x_px.forEach((_, k) => (made.x_px[k] = k % 9))
    made.x_px[3 * 9 + 4] = 40
    return made
  }
  const owners = (inside: (x: number, y: number) => boolean) => ({
    width: 40,
    height: 30,
    owner: Int16Array.from({ length: 1200 }, (_, k) => (inside(k % 40, Math.floor(k / 40)) ? 2 : -1)),
    still: [],
  })

  test('goes on evenly from what lies around it, and stays as measured elsewhere', () => {
    const { x_px } = calmed(
      bend(),
      owners((x, y) => x > 17 && x < 23 && y > 12 && y < 18),
      frame_px,
    )
    expect(x_px[3 * 9 + 4]).toBeCloseTo(4, 3)
    x_px.forEach((by, k) => k !== 3 * 9 + 4 && expect(by).toBe(k % 9))
  })

  test('is the same where there is no such part', () => {
    const before = bend()
    expect(
      calmed(
        before,
        owners(() => false),
        frame_px,
      ),
    ).toBe(before)
  })
})
