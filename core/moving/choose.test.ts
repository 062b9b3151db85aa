import { createBend, createPlane, type Plane } from '../raster'
import { calmed } from './calmed'
import { chooseFrames } from './choose'
import { outlineOf } from './outline'

const plane = (width: number, height: number, value: (x: number, y: number) => number): Plane => {
  const out = createPlane(width, height)
  for (let i = 0; i < out.data.length; i++) out.data[i] = value(i % width, Math.floor(i / width))
  return out
}

describe('which frame shows what moved', () => {
  const [across, down] = [20, 10]
  const all = new Uint8Array(across * down).fill(1)
  // The first frame has more detail on the left, the second on the right.
  const detail = [plane(across, down, (x) => (x < 12 ? 10 : 4)), plane(across, down, (x) => (x < 12 ? 3 : 9))]
  const shown = (disagreement: number, moved = all) => [
    ...new Set(chooseFrames({ across, down, moved, detail, apart: () => new Float32Array(across * down).fill(disagreement) })),
  ]

  test('is one for all of it where frames disagree along the border, the one that loses least', () => {
    expect(shown(100)).toEqual([0])
  })

  test('is the sharpest on each side where they agree', () => {
    expect(shown(0)).toEqual([0, 1])
  })

  test('is none where nothing moved', () => {
    expect(shown(100, new Uint8Array(across * down))).toEqual([-1])
  })
})

describe('the outline of what moved', () => {
  const certainty = { sure_px: 3, likely_px: 1.5, leastShare: 0.002, leastOfPart: 0.05 }
  const marked = (displaced: Plane) => outlineOf(displaced, certainty).reduce((sum, is) => sum + is, 0)
  const disc = (x: number, y: number, radius: number) => Math.hypot(x - 50, y - 40) < radius

  test('takes all that hangs together with what surely moved, and gaps in it', () => {
    const moved = plane(100, 80, (x, y) => (disc(x, y, 2) ? 0 : disc(x, y, 6) ? 4 : disc(x, y, 20) ? 2 : 0.5))
    const area = Math.PI * 20 ** 2
    expect(marked(moved)).toBeGreaterThan(area)
    expect(marked(moved)).toBeLessThan(1.3 * area)
  })

  test('takes nothing of what may have moved only, and no specks', () => {
    expect(marked(plane(100, 80, (x, y) => (disc(x, y, 20) ? 2.5 : 0)))).toBe(0)
    expect(marked(plane(100, 80, (x, y) => (disc(x, y, 1.5) ? 9 : 0)))).toBe(0)
    // Nor what sways slightly all over.
    expect(marked(plane(100, 80, (x, y) => (disc(x, y, 3) ? 4 : disc(x, y, 35) ? 2 : 0)))).toBe(0)
  })
})

test('inside a part a bend goes on from what lies around it, and stays as it is elsewhere', () => {
  const bend = createBend(11, 11, 110, 110)
  bend.x_px.forEach((_, k) => (bend.x_px[k] = 1))
  bend.x_px[5 * 11 + 5] = 9
  const owner = new Int16Array(22 * 22).fill(-1)
  for (let y = 8; y < 15; y++) owner.fill(2, y * 22 + 8, y * 22 + 15)
  const calm = calmed(bend, { width: 22, height: 22, owner, still: [] }, { width: 110, height: 110 })
  for (const x of calm.x_px) expect(x).toBeCloseTo(1, 2)
  expect(bend.x_px[5 * 11 + 5]).toBe(9)
})
