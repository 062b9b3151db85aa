import fc from 'fast-check'
import { fitBudget, planCsv, planGcode, planSeries, sameSize, tradeTable, withLongSteps, blurThrough, type PlanRequest } from '.'
import { landscape, macro } from './testRequests'

const anyMacro = fc.record({
  depth: fc.double({ min: 1, max: 40, noNaN: true }),
  m: fc.double({ min: 0.2, max: 3, noNaN: true }),
  fNumber: fc.constantFrom(2.8, 4, 5.6, 8),
  overlap: fc.double({ min: 0.1, max: 0.6, noNaN: true }),
  most: fc.integer({ min: 2, max: 60 }),
})

const requestOf = ({ depth, m, fNumber, overlap }: { depth: number; m: number; fNumber: number; overlap: number }): PlanRequest => ({
  ...macro,
  optics: { kind: 'lens', focalLength_mm: 100, pupilRatio: 1, fNumber, magnification: m },
  subject: { kind: 'depth', depth_mm: depth },
  mover: { kind: 'ring' },
  overlap,
})

describe('a budget', () => {
  test('is kept by every way that is offered, and each changes what it says only', () => {
    fc.assert(
      fc.property(anyMacro, (random) => {
        const request = requestOf(random)
        const { ways, fits, most } = fitBudget(request, { frames: random.most }, { smallestFNumber: 32 })
        expect(most).toBe(random.most)
        expect(fits).toBe(planSeries(request).frameCount <= random.most)
        if (fits) return expect(ways).toEqual([])
        for (const { change, request: changed, plan } of ways) {
          expect(plan.frameCount).toBeLessThanOrEqual(random.most)
          if (change !== 'aperture' && change !== 'all') expect(changed.optics).toEqual(request.optics)
          if (change !== 'overlap' && change !== 'all') expect(changed.overlap).toBe(request.overlap)
          if (change !== 'criterion' && change !== 'all') expect(changed.sharpness).toEqual(request.sharpness)
          expect(changed.subject).toEqual(request.subject)
        }
        return undefined
      }),
      { numRuns: 150, seed: 5 },
    )
  })

  test('both frames and minutes count, the scarcer one first', () => {
    const timed = { ...macro, timing: { ...macro.timing, settle_s: 10 } }
    expect(fitBudget(timed, { frames: 15, duration_s: 3000 }).most).toBe(15)
    expect(fitBudget(timed, { frames: 15, duration_s: 100 }).most).toBe(10)
  })

  test('of a landscape too', () => {
    const wide: PlanRequest = { ...landscape, sharpness: { kind: 'coc', coc_mm: 0.012 } }
    const { ways } = fitBudget(wide, { frames: 3 }, { smallestFNumber: 22 })
    expect(ways.length).toBeGreaterThan(0)
    for (const { plan } of ways) expect(plan.frames.at(-1)!.far_mm).toBe(Infinity)
  })
})

describe('the trade between depth and size', () => {
  const settings = [300, 450, 900].map((distance_mm) => ({ focalLength_mm: 100, distance_mm }))
  const { rows } = tradeTable(macro, { width_mm: 40, depth_mm: 20 }, 1, [4, 8, 16], settings)

  test('stepping back gains depth and loses size, stopping down gains depth alone', () => {
    for (const { cells } of rows) {
      cells.slice(1).forEach((cell, k) => {
        expect(cell.depthOfField_mm).toBeGreaterThan(cells[k].depthOfField_mm)
        expect(cell.share_percent).toBeLessThan(cells[k].share_percent)
      })
    }
    rows[0].cells.forEach((cell, k) => {
      expect(rows[2].cells[k].depthOfField_mm).toBeGreaterThan(cell.depthOfField_mm)
      expect(rows[2].cells[k].share_percent).toBe(cell.share_percent)
    })
  })

  test('another focal length at the same size stands farther off', () => {
    const same = sameSize([50, 100, 200], 0.5)
    expect(same.map(({ distance_mm }) => distance_mm)).toEqual([150, 300, 600])
  })
})

describe('steps that come out too long', () => {
  const worst = (request: PlanRequest, by: number) => {
    const plan = planSeries(request)
    return (
      Math.max(
        ...blurThrough(withLongSteps(plan, by), request, 600)
          .slice(10, -10)
          .map(({ blur_mm }) => blur_mm),
      ) / plan.coc_mm
    )
  }

  test('part the slices where the overlap is small, and not where it is large', () => {
    expect(worst({ ...macro, overlap: 0.05 }, 0.2)).toBeGreaterThan(1.02)
    expect(worst({ ...macro, overlap: 0.4 }, 0.2)).toBeLessThanOrEqual(1.0001)
  })

  test('of a ring are stretched in dioptres and never end beyond infinity', () => {
    const long = withLongSteps(planSeries(landscape), 0.5)
    for (const { focusDistance_mm } of long.frames) expect(focusDistance_mm! > 0).toBe(true)
    expect(long.frames[0].focusDistance_mm).toBe(planSeries(landscape).frames[0].focusDistance_mm)
  })
})

describe('files to take along', () => {
  test('a far end that is shot first is zero, and the rail comes back below it', () => {
    const plan = planSeries(macro)
    const lines = planGcode(plan, { feed_mmPerMin: 60, settle_s: 1, backlash_mm: 0.2, farFirst: true }).split('\n')
    const moves = lines.filter((line) => line.startsWith('G1')).map((line) => Number(/X(-?[\d.]+)/.exec(line)![1]))
    expect(moves[0]).toBe(0.2)
    expect(moves[1]).toBe(0)
    expect(moves.at(-1)).toBeCloseTo(-plan.frames.at(-1)!.travel_mm!, 4)
    expect(moves.slice(1)).toEqual([...moves.slice(1)].sort((a, b) => b - a))
  })

  test('CSV has as many fields in every line as in its head', () => {
    for (const request of [macro, landscape]) {
      const lines = planCsv(planSeries(request)).trimEnd().split('\r\n')
      for (const line of lines) expect(line.split(',')).toHaveLength(lines[0].split(',').length)
    }
  })
})
