import fc from 'fast-check'
import { farLimit_mm, focusForFar_mm, focusForNear_mm, hyperfocal_mm, nearLimit_mm } from '../optics'
import { evenSlices, MAX_FRAMES, rangeSlices, roundStride_mm } from './slices'

describe('even slices', () => {
  test('one where the slice is deep enough, to the last decimal', () => {
    expect(evenSlices(0, 0.3, 0.1 + 0.2, 0.2)).toHaveLength(1)
    expect(evenSlices(0, 1, 0.5, 0.25)).toHaveLength(3)
    expect(evenSlices(0, 1.0001, 0.5, 0.25)).toHaveLength(4)
  })

  test('lie one stride apart and are focused in their middle', () => {
    const slices = evenSlices(-1, 4, 1, 0.7)
    slices.slice(1).forEach(({ near }, k) => expect(near - slices[k].near).toBeCloseTo(0.7, 9))
    for (const { near, far, focus } of slices) expect(focus).toBeCloseTo((near + far) / 2, 9)
  })

  test('are refused beyond the limit, with the limit', () => {
    expect(() => evenSlices(0, MAX_FRAMES + 1, 1, 1)).toThrow(expect.objectContaining({ code: 'plan.tooMany' }))
    expect(evenSlices(0, MAX_FRAMES, 1, 1)).toHaveLength(MAX_FRAMES)
  })
})

describe('the mover’s resolution', () => {
  test.each([
    [0.6274, 0.01, 0.62],
    [0.62, 0.01, 0.62],
    [0.3, 0.1, 0.3],
    [0.009, 0.01, 0],
    [1.27, 1 / 32, 1.25],
  ])('%d at %d becomes %d', (stride, resolution, expected) => expect(roundStride_mm(stride, resolution)).toBe(expected))

  test('never lengthens the stride, and shortens it by less than a step', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.001, max: 50, noNaN: true }), fc.double({ min: 0.0005, max: 2, noNaN: true }), (stride, resolution) => {
        const rounded = roundStride_mm(stride, resolution)
        return rounded <= stride * (1 + 1e-8) && rounded > stride - resolution * (1 + 1e-6)
      }),
    )
  })
})

const range = fc.record({
  near: fc.double({ min: 300, max: 5000, noNaN: true }),
  span: fc.oneof(fc.double({ min: 10, max: 50_000, noNaN: true }), fc.constant(Infinity)),
  focal: fc.double({ min: 14, max: 90, noNaN: true }),
  fNumber: fc.double({ min: 4, max: 22, noNaN: true }),
})

/** The fewest slices that touch without overlap: each as far as it can reach, found one after the other. */
function fewest(near: number, far: number, hyperfocal: number, focal: number): number {
  let count = 1
  let reached = farLimit_mm(focusForNear_mm(near, hyperfocal, focal), hyperfocal, focal)
  while (reached < far * (1 - 1e-9) && count < 5000) {
    reached = farLimit_mm(focusForNear_mm(reached, hyperfocal, focal), hyperfocal, focal)
    count++
  }
  return count
}

describe('slices by distance', () => {
  test('are never more than one above the fewest that touch', () => {
    fc.assert(
      fc.property(range, ({ near, span, focal, fNumber }) => {
        const hyperfocal = hyperfocal_mm(focal, fNumber, 0.02)
        const slices = rangeSlices(near, near + span, hyperfocal, focal, 0)
        expect(slices.length).toBeLessThanOrEqual(fewest(near, near + span, hyperfocal, focal) + 1)
      }),
      { numRuns: 2000, seed: 7, endOnFailure: true },
    )
  })

  test('begin where the subject does and end where it does', () => {
    fc.assert(
      fc.property(range, fc.double({ min: 0, max: 0.5, noNaN: true }), ({ near, span, focal, fNumber }, overlap) => {
        const hyperfocal = hyperfocal_mm(focal, fNumber, 0.02)
        const slices = rangeSlices(near, near + span, hyperfocal, focal, overlap)
        expect(slices[0].near).toBeLessThanOrEqual(near * (1 + 1e-6))
        expect(slices.at(-1)!.far).toBeGreaterThanOrEqual((near + span) * (1 - 1e-6))
        if (slices.length > 1) expect(slices[0].near).toBeGreaterThanOrEqual(near * (1 - 1e-6))
      }),
      { numRuns: 2000, seed: 8, endOnFailure: true },
    )
  })

  test('one frame stands between the focus for the near end and the one for the far end', () => {
    const hyperfocal = hyperfocal_mm(24, 11, 0.03)
    const [slice, ...more] = rangeSlices(1200, 3000, hyperfocal, 24, 0.3)
    expect(more).toEqual([])
    expect(slice.focus).toBeLessThanOrEqual(focusForNear_mm(1200, hyperfocal, 24))
    expect(slice.focus).toBeGreaterThanOrEqual(focusForFar_mm(3000, hyperfocal, 24))
    expect(nearLimit_mm(slice.focus, hyperfocal, 24)).toBeLessThan(1200)
  })

  test('more overlap means more frames', () => {
    const hyperfocal = hyperfocal_mm(50, 8, 0.02)
    const counts = [0, 0.2, 0.4, 0.6, 0.8].map((overlap) => rangeSlices(600, Infinity, hyperfocal, 50, overlap).length)
    counts.slice(1).forEach((count, k) => expect(count).toBeGreaterThan(counts[k]))
  })
})
