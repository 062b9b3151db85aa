import fc from 'fast-check'
import { MAX_FRAMES, planSeries, PlanError, type Plan, type PlanRequest } from '.'
import { landscape as field, macro } from './testRequests'

const landscape: PlanRequest = { ...field, overlap: 0 }

describe('a subject by depth', () => {
  const plan = planSeries(macro)

  test('gives the agreed figures', () => {
    expect(plan).toMatchObject({ workingFNumber: 16, stride_mm: 0.62, frameCount: 21, storage_MB: 945, magnification: 1 })
    expect(plan.depthOfField_mm).toBeCloseTo(0.89642, 5)
    expect(plan.overlap).toBeCloseTo(0.308, 3)
    expect(plan.frames[0].position_mm).toBeCloseTo(-0.172, 3)
    expect(plan.frames[0].near_mm).toBeCloseTo(-0.62, 6)
    expect(plan.frames[0].far_mm).toBeCloseTo(0.276, 3)
  })

  test('counts the edge the rail costs from the pupil distance', () => {
    expect(plan.edgeLoss_percent).toBeCloseTo(100 * (1 - 200 / 212.4), 6)
  })

  test('one frame is enough for a subject thinner than a slice', () => {
    const flat = planSeries({ ...macro, subject: { kind: 'depth', depth_mm: 0.8 }, leadIn_slices: 0, runOut_slices: 0 })
    expect(flat.frameCount).toBe(1)
    expect(flat.singleFrame).toMatchObject({ possible: true })
    expect(flat.singleFrame.fNumber).toBeLessThanOrEqual(8)
  })

  test('says so where diffraction exceeds the criterion, and which aperture does not', () => {
    const tooSmall = planSeries({
      ...macro,
      optics: { ...macro.optics, fNumber: 22 } as PlanRequest['optics'],
      sharpness: { kind: 'coc', coc_mm: 0.012 },
    })
    expect(tooSmall.notes[0]).toMatchObject({ code: 'diffraction-exceeds-criterion' })
    expect(tooSmall.notes[0].text).toContain('f/8')
  })

  test('refuses a rail too coarse for the stride, naming the field', () => {
    expect(() => planSeries({ ...macro, mover: { kind: 'rail', resolution_mm: 1 } })).toThrow(
      expect.objectContaining({ field: 'mover.resolution_mm' }),
    )
  })

  test('refuses an absurd depth with the limit', () => {
    expect(() => planSeries({ ...macro, subject: { kind: 'depth', depth_mm: 1e8 } })).toThrow(`the limit is ${MAX_FRAMES}`)
  })

  test('takes an objective by its aperture', () => {
    const plan = planSeries({
      ...macro,
      optics: { kind: 'objective', designMagnification: 10, designTube_mm: 200, tube_mm: 200, numericalAperture: 0.25 },
      mover: { kind: 'rail', resolution_mm: 0.001 },
      subject: { kind: 'depth', depth_mm: 0.2 },
    })
    expect(plan.depthOfField_mm).toBeCloseTo(0.0088 + 0.012, 6)
    expect(plan.stride_mm).toBe(0.014)
  })
})

describe('a subject by distances', () => {
  test('three frames from half a metre to infinity', () => {
    const plan = planSeries({ ...landscape, diffraction: false })
    expect(plan.frameCount).toBe(3)
    expect(plan.hyperfocal_mm).toBeCloseTo(2424, 0)
    expect(plan.frames[0].near_mm).toBeCloseTo(500, 6)
    expect(plan.frames[2].far_mm).toBe(Infinity)
    expect(JSON.parse(JSON.stringify(plan)).frames[2].far_mm).toBeNull()
  })

  test('distances from the sensor plane are moved to the lens', () => {
    const plan = planSeries({ ...landscape, subject: { kind: 'range', near_mm: 525.26, far_mm: 5000, from: 'sensor' } })
    expect(plan.frames[0].near_mm).toBeCloseTo(500, 0)
    expect(plan.frames[0].scaleDistance_mm! - plan.frames[0].focusDistance_mm!).toBeGreaterThan(24)
  })

  test('one frame at a small enough aperture', () => {
    const plan = planSeries({ ...landscape, subject: { kind: 'range', near_mm: 1500, far_mm: Infinity, from: 'lens' } })
    expect(plan.frameCount).toBe(1)
    expect(plan.frames[0].far_mm).toBe(Infinity)
    expect(plan.frames[0].near_mm).toBeLessThanOrEqual(1500)
  })

  test.each([
    ['subject.far_mm', { kind: 'range', near_mm: 900, far_mm: 500, from: 'lens' }],
    ['subject.near_mm', { kind: 'range', near_mm: 20, far_mm: 500, from: 'lens' }],
    ['subject.near_mm', { kind: 'range', near_mm: 90, far_mm: 500, from: 'sensor' }],
  ] as const)('refuses at %s', (field, subject) => {
    expect(() => planSeries({ ...landscape, subject })).toThrow(expect.objectContaining({ field }))
  })
})

/** True where `frames` cover near…far and every neighbour overlaps by `overlap` of the slice between `measure`s. */
function holds(frames: Plan['frames'], near: number, far: number, overlap: number, measure: (mm: number) => number): boolean {
  const slack = 1e-8
  const width = (f: Plan['frames'][number]) => Math.abs(measure(f.far_mm) - measure(f.near_mm))
  const covered = Math.sign(measure(far) - measure(near))
  const beyond = (a: number, b: number, tolerance: number) => covered * (measure(a) - measure(b)) >= -tolerance
  if (frames.length === 0) return false
  const tolerance = slack * Math.max(width(frames[0]), 1e-12)
  return (
    beyond(near, frames[0].near_mm, tolerance) &&
    beyond(frames.at(-1)!.far_mm, far, tolerance) &&
    frames
      .slice(1)
      .every(
        (frame, k) =>
          covered * (measure(frames[k].far_mm) - measure(frame.near_mm)) >= overlap * Math.max(width(frame), width(frames[k])) - tolerance,
      )
  )
}

const anyRequest = fc.record({
  near: fc.double({ min: 120, max: 20_000, noNaN: true }),
  span: fc.oneof(fc.double({ min: 1, max: 20_000, noNaN: true }), fc.constant(Infinity)),
  depth: fc.double({ min: 0.001, max: 200, noNaN: true }),
  focal: fc.double({ min: 10, max: 100, noNaN: true }),
  fNumber: fc.double({ min: 1, max: 32, noNaN: true }),
  m: fc.double({ min: 0.05, max: 20, noNaN: true }),
  pupil: fc.double({ min: 0.5, max: 2, noNaN: true }),
  coc: fc.double({ min: 0.003, max: 0.1, noNaN: true }),
  overlap: fc.double({ min: 0, max: 0.9, noNaN: true }),
  resolution: fc.constantFrom(0, 0.001, 0.005, 0.01, 1 / 32),
  margin: fc.double({ min: 0, max: 2, noNaN: true }),
  byDepth: fc.boolean(),
  diffraction: fc.boolean(),
})

test('ten thousand random requests: covered, overlapped, none to spare, never NaN or endless', () => {
  fc.assert(
    fc.property(anyRequest, (r) => {
      const request: PlanRequest = {
        ...macro,
        optics: { kind: 'lens', focalLength_mm: r.focal, fNumber: r.fNumber, pupilRatio: r.pupil, ...(r.byDepth && { magnification: r.m }) },
        sharpness: { kind: 'coc', coc_mm: r.coc },
        diffraction: r.diffraction,
        overlap: r.overlap,
        leadIn_slices: r.byDepth ? r.margin : 0,
        runOut_slices: r.byDepth ? r.margin : 0,
        mover: r.resolution > 0 ? { kind: 'rail', resolution_mm: r.resolution } : { kind: 'ring' },
        subject: r.byDepth ? { kind: 'depth', depth_mm: r.depth } : { kind: 'range', near_mm: r.near, far_mm: r.near + r.span, from: 'lens' },
      }
      let plan: Plan
      try {
        plan = planSeries(request)
      } catch (error) {
        return error instanceof PlanError
      }
      expect(JSON.stringify(plan, (_, v) => (Number.isNaN(v) ? 'NaN' : v))).not.toContain('NaN')
      expect(plan.frameCount).toBeLessThanOrEqual(MAX_FRAMES)
      const measure = r.byDepth ? (mm: number) => mm : (mm: number) => 1 / mm
      const margin = r.byDepth ? r.margin * plan.stride_mm : 0
      const near = r.byDepth ? -margin : r.near
      const far = r.byDepth ? r.depth + margin : r.near + r.span
      expect(holds(plan.frames, near, far, r.overlap, measure)).toBe(true)
      if (r.overlap > 0.45) return true // two strides may then still touch: dropping one costs overlap, checked below
      for (const k of [0, plan.frames.length >> 1, plan.frames.length - 1]) {
        expect(
          holds(
            plan.frames.filter((_, i) => i !== k),
            near,
            far,
            r.overlap,
            measure,
          ),
        ).toBe(false)
      }
      return true
    }),
    { numRuns: 10_000, endOnFailure: true, seed: 20261124 },
  )
})
