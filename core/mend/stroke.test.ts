import * as fc from 'fast-check'
import { standingEdits, strengthAt, strokeBounds, strokeMask, touchedBy, type MendEdit, type Stroke } from '.'
import type { Rectangle } from '../raster'
import { WasmKernels, Workspace } from '../raster/kernels'

const stroke = (change: Partial<Stroke> = {}): Stroke => ({ path: [[20, 20]], radius_px: 10, softness: 0.5, opacity: 1, ...change })

const kernels = new WasmKernels()
const maskOf = (one: Stroke, part: Rectangle) => strokeMask(one, part, new Workspace(kernels, part.width)).strength.slice()

describe('the strength of a stroke', () => {
  test('is whole to where its softness begins, and nothing from the radius on', () => {
    expect(strengthAt(5, stroke())).toBe(1)
    expect(strengthAt(7.5, stroke())).toBeCloseTo(0.5, 9)
    expect(strengthAt(10, stroke())).toBe(0)
    expect(strengthAt(0, stroke({ opacity: 0.3 }))).toBe(0.3)
    expect([strengthAt(10, stroke({ softness: 0 })), strengthAt(10.001, stroke({ softness: 0 }))]).toEqual([1, 0])
  })

  test('never rises outwards, and has no step', () =>
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 1, noNaN: true }), fc.double({ min: 0, max: 12, noNaN: true }), (softness, at) => {
        const [here, beyond] = [at, at + 0.01].map((distance) => strengthAt(distance, stroke({ softness })))
        expect(beyond).toBeLessThanOrEqual(here)
        // The steepest part of the fall is 1.5 over its width.
        expect(here - beyond).toBeLessThanOrEqual((1.6 * 0.01) / (10 * softness) + 1e-9)
      }),
    ))

  test('parts of one stroke that overlap do not add up', () => {
    const once = maskOf(stroke({ opacity: 0.5 }), { x: 0, y: 0, width: 40, height: 40 })
    const thrice = maskOf(
      stroke({
        opacity: 0.5,
        path: [
          [20, 20],
          [20, 20],
          [20.5, 20],
          [20, 20],
        ],
      }),
      { x: 0, y: 0, width: 40, height: 40 },
    )
    expect(Math.max(...thrice)).toBe(0.5)
    expect(once[20 * 40 + 12]).toBeCloseTo(thrice[20 * 40 + 12], 6)
  })

  test('a mask is the distance to the path, worked out pixel by pixel', () => {
    const toPiece = (x: number, y: number, [ax, ay]: number[], [bx, by]: number[]) => {
      const length = (bx - ax) ** 2 + (by - ay) ** 2
      const t = length === 0 ? 0 : Math.min(1, Math.max(0, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / length))
      return Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay))
    }
    // Whole numbers now and then: pieces that are level, upright or a single point.
    const along = fc.oneof(fc.integer({ min: -8, max: 48 }), fc.double({ min: -8, max: 48, noNaN: true }))
    const paths = fc.array(fc.tuple(along, along), { minLength: 1, maxLength: 6 })
    const share = fc.oneof(fc.constant(0), fc.double({ min: 0.05, max: 1, noNaN: true }))
    fc.assert(
      fc.property(paths, fc.double({ min: 0.6, max: 18, noNaN: true }), share, (path, radius_px, softness) => {
        const one = stroke({ path, radius_px, softness })
        const mask = maskOf(one, { x: 3, y: 2, width: 40, height: 38 })
        let worst = 0
        for (let y = 2; y < 40; y++)
          for (let x = 3; x < 43; x++) {
            const away = Math.min(...path.map((at, k) => toPiece(x, y, at, path[Math.min(k + 1, path.length - 1)])))
            // A hard rim may fall to either side of a pixel that lies on it.
            if (Math.abs(away - radius_px) < 1e-5) continue
            worst = Math.max(worst, Math.abs(mask[(y - 2) * 40 + x - 3] - strengthAt(away, one)))
          }
        expect(worst).toBeLessThan(1e-3)
      }),
      { numRuns: 60 },
    )
  })

  test('a part of a mask is what it is in the whole, to the last bit', () => {
    const along = fc.double({ min: -8, max: 128, noNaN: true })
    const cut = fc.record({ x: fc.nat(60), y: fc.nat(60), width: fc.integer({ min: 1, max: 60 }), height: fc.integer({ min: 1, max: 60 }) })
    const paths = fc.array(fc.tuple(along, along), { minLength: 1, maxLength: 9 })
    fc.assert(
      fc.property(paths, fc.double({ min: 0.6, max: 30, noNaN: true }), fc.constantFrom(0, 0.3, 1), cut, (path, radius_px, softness, part) => {
        const one = stroke({ path, radius_px, softness })
        const whole = maskOf(one, { x: 0, y: 0, width: 120, height: 120 })
        const there = Float32Array.from({ length: part.width * part.height }, (_, i) => {
          return whole[(part.y + Math.floor(i / part.width)) * 120 + part.x + (i % part.width)]
        })
        expect(maskOf(one, part)).toEqual(there)
        // What is said to be touched holds all that is.
        const { x, y, width, height } = touchedBy(one, part)
        for (let v = 0, i = 0; v < part.height; v++)
          for (let u = 0; u < part.width; u++, i++) {
            const within = part.x + u >= x && part.x + u < x + width && part.y + v >= y && part.y + v < y + height
            if (there[i] > 0) expect(within).toBe(true)
          }
      }),
    )
  })

  test('a stroke beside the picture touches nothing of it', () => {
    expect(strokeBounds(stroke({ path: [[-20, 5]] }), 40, 40).width).toBe(0)
    expect(strokeBounds(stroke({ path: [[35, 5]] }), 40, 40)).toEqual({ x: 25, y: 0, width: 15, height: 16 })
  })
})

describe('edits that stand', () => {
  const heal = (id: string): MendEdit => ({ id, kind: 'heal', ...stroke() })
  const undo = (id: string, of: string): MendEdit => ({ id, kind: 'undo', of })
  const ids = (...edits: MendEdit[]) => standingEdits(edits).map(({ id }) => id)

  test('undone ones do not; an undo that was undone does nothing, to any depth', () => {
    expect(ids(heal('1'), heal('2'), undo('3', '1'))).toEqual(['2'])
    expect(ids(heal('1'), undo('2', '1'), undo('3', '2'))).toEqual(['1'])
    expect(ids(heal('1'), undo('2', '1'), undo('3', '2'), undo('4', '3'))).toEqual([])
  })
})
