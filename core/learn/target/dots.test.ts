import * as fc from 'fast-check'
import { createPlane, type Plane } from '../../raster'
import { dotsIn, type Dot } from './dots'
import { place } from './homography'
import { sheetIn } from './ladders'
import { CODE, LADDER_u, rowAt, ROWS } from './sheet'

const [WIDTH, HEIGHT] = [600, 400]

/** White paper, lit unevenly, with dark discs. */
function paper(discs: { x: number; y: number; radius: number }[], lit = (_x: number, _y: number) => 0.8): Plane {
  const plane = createPlane(WIDTH, HEIGHT)
  plane.data.forEach((_, i) => {
    const [x, y] = [i % WIDTH, Math.floor(i / WIDTH)]
    const covered = Math.max(0, ...discs.map((disc) => Math.min(1, Math.max(0, disc.radius - Math.hypot(x - disc.x, y - disc.y) + 0.5))))
    plane.data[i] = lit(x, y) * (1 - 0.95 * covered)
  })
  return plane
}

describe('dots', () => {
  test('are found to a twentieth of a px, with ink as their area says, in uneven light', () => {
    const discs = [6, 8].flatMap((radius, row) => [80.3, 300.75, 520.1].map((x) => ({ x, y: 120.4 + 150 * row, radius })))
    const found = dotsIn(paper(discs, (x, y) => 0.3 + (0.5 * x) / WIDTH + (0.15 * y) / HEIGHT))
    expect(found).toHaveLength(discs.length)
    for (const { x, y, radius } of discs) {
      const dot = found.find((each) => Math.hypot(each.x - x, each.y - y) < 3)!
      expect(Math.hypot(dot.x - x, dot.y - y)).toBeLessThan(0.05)
      expect(dot.ink_px / (Math.PI * radius ** 2)).toBeCloseTo(0.94, 1)
    }
  })

  test('are neither bars, nor specks, nor what is cut by the border, nor large dark places', () => {
    const bars = paper([])
    for (let y = 60; y < 340; y++) bars.data.fill(0.05, y * WIDTH + 200, y * WIDTH + 212)
    bars.data[100 * WIDTH + 400] = 0
    for (let y = 200; y < 260; y++) bars.data.fill(0.05, y * WIDTH + 400, y * WIDTH + 470)
    for (let y = 150; y < 160; y++) bars.data.fill(0.05, y * WIDTH, y * WIDTH + 10)
    expect(dotsIn(bars)).toEqual([])
  })
})

describe('the sheet is told from its dots', () => {
  const pitch_px = 18
  const ink = (large: boolean) => (large ? 80 : 36)
  /** Dots of the rows that are in view, seen straight. */
  const dots = (rows: number[], at = (u: number, s: number): [number, number] => [300 + pitch_px * u, 200 + pitch_px * s]): Dot[] =>
    rows.flatMap((row) =>
      [-LADDER_u, LADDER_u].map((u) => {
        const [x, y] = at(u, rowAt(row))
        return { x, y, ink_px: ink(CODE[row]) }
      }),
    )
  const from = (first: number, count: number) => Array.from({ length: count }, (_, k) => first + k)

  test('whichever rows are in view, with some of them missing and dirt between them; where two places of the code fit nearly alike, not at all', () => {
    let told = 0
    fc.assert(
      fc.property(fc.integer({ min: 0, max: ROWS - 22 }), fc.shuffledSubarray(from(4, 14), { maxLength: 3 }), (first, missing) => {
        const rows = from(first, 22).filter((row) => !missing.includes(row - first))
        // Places as the picture has them, from wherever its first row lies.
        const shifted = dots(rows, (u, s) => [300 + pitch_px * u, 20 + pitch_px * (s - rowAt(first))])
        const dirt = { x: 300 + pitch_px * LADDER_u + 2, y: 20 + pitch_px * 10.5, ink_px: 5 }
        const found = sheetIn([...shifted, dirt, { x: 300, y: 150, ink_px: 60 }])
        if (!found) return
        told++
        const [x, y] = place(found, -LADDER_u, rowAt(first))
        expect(Math.hypot(x - (300 - pitch_px * LADDER_u), y - 20)).toBeLessThan(0.5)
      }),
      // Rows 40 to 61 without 44, 48 and 54 are read in two ways with two mistakes.
      { numRuns: 40, examples: [[40, [4, 8, 14]]] },
    )
    expect(told).toBeGreaterThanOrEqual(34)
  })

  test('leaning, and upside down', () => {
    const [cos, sin] = [Math.cos(0.08), Math.sin(0.08)]
    const leaning = (u: number, s: number): [number, number] => [300 + pitch_px * (cos * u - sin * s), 200 + pitch_px * (sin * u + cos * s)]
    for (const turn of [1, -1]) {
      const found = sheetIn(dots(from(18, 24), (u, s) => leaning(turn * u, turn * s)))!
      const [x, y] = place(found, 5, 3)
      expect([x, y].map((value) => Math.round(value))).toEqual(leaning(turn * 5, turn * 3).map(Math.round))
    }
  })

  test('one ladder, too few dots, or dots of one size tell nothing', () => {
    expect(sheetIn(dots(from(20, 20)).filter(({ x }) => x < 300))).toBeUndefined()
    expect(sheetIn(dots(from(20, 6)))).toBeUndefined()
    expect(sheetIn(dots(from(10, 30)).map((dot) => ({ ...dot, ink_px: 50 })))).toBeUndefined()
    expect(sheetIn([])).toBeUndefined()
  })
})
