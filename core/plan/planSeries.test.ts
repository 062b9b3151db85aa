import fc from 'fast-check'
import { MAX_FRAMES, planSeries, type Plan, type PlanRequest } from '.'
import { isRefusal } from '../words'
import { farLimit_mm, focusForNear_mm, fromSensor_mm, nearLimit_mm } from '../optics'
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
    expect(() => planSeries({ ...macro, subject: { kind: 'depth', depth_mm: 1e8 } })).toThrow(expect.objectContaining({ code: 'plan.tooMany' }))
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
  from: fc.constantFrom('lens' as const, 'sensor' as const),
  depth: fc.double({ min: 0.001, max: 200, noNaN: true }),
  focal: fc.double({ min: 10, max: 100, noNaN: true }),
  fNumber: fc.double({ min: 1, max: 32, noNaN: true }),
  m: fc.double({ min: 0.05, max: 20, noNaN: true }),
  pupil: fc.double({ min: 0.5, max: 2, noNaN: true }),
  aperture: fc.double({ min: 0.02, max: 0.9, noNaN: true }),
  sharpness: fc.oneof(
    fc.record({ kind: fc.constant('coc' as const), coc_mm: fc.double({ min: 0.003, max: 0.1, noNaN: true }) }),
    fc.record({ kind: fc.constant('pixels' as const), count: fc.double({ min: 0.5, max: 12, noNaN: true }) }),
    fc.record({
      kind: fc.constant('print' as const),
      width_mm: fc.double({ min: 80, max: 3000, noNaN: true }),
      viewingDistance_mm: fc.double({ min: 150, max: 5000, noNaN: true }),
    }),
  ),
  overlap: fc.double({ min: 0, max: 0.9, noNaN: true }),
  resolution: fc.constantFrom(0, 0.001, 0.005, 0.01, 1 / 32, 0.5),
  stepsOf: fc.constantFrom('rail' as const, 'ring' as const),
  margin: fc.double({ min: 0, max: 2, noNaN: true }),
  what: fc.constantFrom('depth' as const, 'objective' as const, 'range' as const),
  attachment: fc.boolean(),
  diffraction: fc.boolean(),
})

type Random = typeof anyRequest extends fc.Arbitrary<infer T> ? T : never

function requestOf(r: Random): PlanRequest {
  const lens = { kind: 'lens' as const, focalLength_mm: r.focal, fNumber: r.fNumber, pupilRatio: r.pupil }
  const objective = { kind: 'objective' as const, designMagnification: r.m, designTube_mm: 200, tube_mm: r.focal * 2, numericalAperture: r.aperture }
  const step = r.resolution > 0 ? { resolution_mm: r.resolution } : undefined
  return {
    ...macro,
    optics: r.what === 'objective' ? objective : r.what === 'depth' ? { ...lens, magnification: r.m, attachment: r.attachment } : lens,
    sharpness: r.sharpness,
    diffraction: r.diffraction,
    overlap: r.overlap,
    leadIn_slices: r.what === 'range' ? 0 : r.margin,
    runOut_slices: r.what === 'range' ? 0 : r.margin,
    mover: r.stepsOf === 'rail' && step ? { kind: 'rail', ...step } : { kind: 'ring', ...step },
    subject: r.what === 'range' ? { kind: 'range', near_mm: r.near, far_mm: r.near + r.span, from: r.from } : { kind: 'depth', depth_mm: r.depth },
  }
}

/** What the frames of a plan must cover, in their own coordinates, and how lengths there are measured. */
function toCover(r: Random, plan: Plan) {
  if (r.what !== 'range') {
    const margin = r.margin * plan.stride_mm
    return { near: -margin, far: r.depth + margin, measure: (mm: number) => mm }
  }
  const lens = (mm: number) => (r.from === 'sensor' ? fromSensor_mm(mm, r.focal) : mm)
  return { near: lens(r.near), far: lens(r.near + r.span), measure: (mm: number) => 1 / mm }
}

function planned(request: PlanRequest): Plan | undefined {
  try {
    return planSeries(request)
  } catch (error) {
    if (isRefusal(error)) return undefined
    throw error
  }
}

test('ten thousand random requests: covered, overlapped, none to spare, never NaN or endless', () => {
  let plans = 0
  fc.assert(
    fc.property(anyRequest, (r) => {
      const plan = planned(requestOf(r))
      if (!plan) return
      plans++
      expect(JSON.stringify(plan, (_, v) => (Number.isNaN(v) ? 'NaN' : v))).not.toContain('NaN')
      expect(plan.frameCount).toBeLessThanOrEqual(MAX_FRAMES)
      const { near, far, measure } = toCover(r, plan)
      expect(holds(plan.frames, near, far, r.overlap, measure)).toBe(true)
      // Every frame of a short series, every so-manieth of a long one, its ends always.
      const apart = Math.max(1, Math.floor(plan.frameCount / 12))
      for (let k = 0; k < plan.frameCount; k++) {
        if (k % apart > 0 && k < plan.frameCount - 1) continue
        const without = plan.frames.filter((_, n) => n !== k)
        expect(holds(without, near, far, r.overlap, measure)).toBe(false)
      }
    }),
    { numRuns: 10_000, endOnFailure: true, seed: 20261125 },
  )
  // The others are refused with a sentence; most must not be.
  expect(plans).toBeGreaterThan(6000)
})

/** The farthest focus whose slice still overlaps that of `focus` by `overlap` of the wider one, found by halving. */
function nextFocus(focus: number, { hyperfocal, focal, overlap }: { hyperfocal: number; focal: number; overlap: number }): number {
  const slice = (vergence: number) => [1 / nearLimit_mm(1 / vergence, hyperfocal, focal), 1 / farLimit_mm(1 / vergence, hyperfocal, focal)]
  const [near, far] = slice(1 / focus)
  let low = 1e-12
  let high = 1 / focus
  for (let step = 0; step < 80; step++) {
    const middle = (low + high) / 2
    const [nextNear, nextFar] = slice(middle)
    if (nextNear - far >= overlap * Math.max(near - far, nextNear - nextFar)) high = middle
    else low = middle
  }
  return 1 / high
}

test('no plan takes more than one frame above the smallest possible', () => {
  fc.assert(
    fc.property(anyRequest, (r) => {
      const plan = planned(requestOf(r))
      if (!plan || plan.frameCount > 300) return
      const { near, far } = toCover(r, plan)
      if (r.what !== 'range') {
        const stride = plan.stride_mm
        const least = Math.max(1, Math.ceil((far - near - plan.depthOfField_mm) / stride - 1e-6) + 1)
        expect(plan.frameCount).toBeLessThanOrEqual(least + 1)
        // And the stride is the longest that the mover can do within the overlap.
        const wanted = plan.depthOfField_mm * (1 - r.overlap)
        expect(stride).toBeGreaterThan(r.resolution > 0 ? wanted - r.resolution * (1 + 1e-6) : wanted * (1 - 1e-9))
        return
      }
      const series = { hyperfocal: plan.hyperfocal_mm!, focal: r.focal, overlap: r.overlap }
      let focus = focusForNear_mm(near, series.hyperfocal, r.focal)
      let least = 1
      while (farLimit_mm(focus, series.hyperfocal, r.focal) < far * (1 - 1e-9) && least < 400) {
        focus = nextFocus(focus, series)
        least++
      }
      expect(plan.frameCount).toBeLessThanOrEqual(least + 1)
    }),
    { numRuns: 2000, endOnFailure: true, seed: 7 },
  )
})
