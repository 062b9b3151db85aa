import { apertureAdvice, blurThrough, checkTravel, dialAt, planCsv, planGcode, planSeries, railResolution_mm } from '.'
import { landscape, macro } from './testRequests'

describe('choosing an aperture', () => {
  const advice = apertureAdvice(macro, 2.8, 32)

  test('stopping down raises diffraction and lowers the blur of one frame until diffraction wins', () => {
    const { points } = advice
    points.slice(1).forEach((point, k) => expect(point.centre_mm).toBeGreaterThan(points[k].centre_mm))
    expect(points[3].oneFrame_mm).toBeLessThan(points[0].oneFrame_mm)
  })

  test('the smallest opening that leaves half the allowance to defocus is recommended', () => {
    // 1.22 λ N (1 + m) ≤ c / √2: N ≤ 15.8, so f/14 of the marked ones.
    expect(advice.recommended).toBe(14)
    expect(advice.reason.code).toBe('aperture.best')
    expect(advice.reason.text).toMatch(/f\/14 .* \d+ frames/)
  })

  test('fewer frames are needed at smaller openings, down to the recommendation', () => {
    const counts = advice.points.filter(({ fNumber }) => fNumber <= advice.recommended!).map(({ frameCount }) => frameCount!)
    counts.slice(1).forEach((count, k) => expect(count).toBeLessThanOrEqual(counts[k]))
  })

  test('a criterion that no aperture meets is said', () => {
    const { recommended, reason } = apertureAdvice({ ...macro, sharpness: { kind: 'coc', coc_mm: 0.003 } }, 2.8, 32)
    expect(recommended).toBeUndefined()
    expect(reason.code).toBe('aperture.none')
  })

  test('one frame that does is preferred to a series', () => {
    const { reason } = apertureAdvice({ ...landscape, subject: { kind: 'range', near_mm: 2000, far_mm: Infinity, from: 'lens' } }, 2, 22)
    expect(reason.code).toBe('aperture.oneFrame')
  })

  test('the blur of one frame over a range is that of its ends', () => {
    const { points } = apertureAdvice(landscape, 8, 8)
    // Focus at 1 m: A v (1/500 − 1/1000) with A = 3 mm and v = 24.59 mm, and diffraction.
    expect(points[0].oneFrame_mm).toBeCloseTo(Math.hypot(3 * 24.5902 * 0.001, points[0].centre_mm), 4)
  })

  test('an objective has no choice', () => {
    const objective = {
      ...macro,
      optics: { kind: 'objective', designMagnification: 10, designTube_mm: 200, tube_mm: 200, numericalAperture: 0.25 } as const,
    }
    expect(() => apertureAdvice(objective, 1, 2)).toThrow(expect.objectContaining({ code: 'plan.oneAperture' }))
  })
})

describe('blur through the series', () => {
  const plan = planSeries(macro)

  test('never exceeds the allowed blur within the subject', () => {
    const inside = blurThrough(plan, macro).filter(({ depth_mm }) => depth_mm >= 0 && depth_mm <= 12)
    expect(Math.max(...inside.map(({ blur_mm }) => blur_mm))).toBeLessThanOrEqual(0.03 + 1e-9)
    expect(Math.min(...inside.map(({ blur_mm }) => blur_mm))).toBeGreaterThanOrEqual(plan.diffraction_mm)
  })

  test('shows the gap where a frame is missing', () => {
    const frames = plan.frames.filter(({ index }) => index !== 10)
    const worst = blurThrough({ ...plan, frames }, macro).reduce((a, b) => (b.blur_mm > a.blur_mm ? b : a))
    expect(worst.blur_mm).toBeGreaterThan(0.03)
    expect(Math.abs(worst.depth_mm - plan.frames[9].position_mm!)).toBeLessThan(0.3)
  })

  test('names the nearest frame, in order', () => {
    const through = blurThrough(plan, macro)
    through.slice(1).forEach(({ frame }, k) => expect(frame).toBeGreaterThanOrEqual(through[k].frame))
    expect(through.at(-1)!.frame).toBe(20)
  })

  test('runs to infinity for a range, within the allowed blur, even in dioptres', () => {
    const plan = planSeries(landscape)
    const through = blurThrough(plan, landscape, 101)
    expect(through.at(-1)!.depth_mm).toBe(Infinity)
    expect(through[50].depth_mm).toBeCloseTo(2 * plan.frames[0].near_mm, 6)
    // Each frame's diffraction is its own magnification's, a hair apart from the nearest frame's that the plan counts.
    expect(Math.max(...through.map(({ blur_mm }) => blur_mm))).toBeLessThan(plan.coc_mm * 1.02)
    expect(new Set(through.map(({ frame }) => frame)).size).toBe(plan.frameCount)
  })
})

describe('a manual rail', () => {
  const rail = { pitch_mm: 1.25, marksPerTurn: 50, length_mm: 100 }

  test('moves pitch over marks a mark', () => expect(railResolution_mm(rail)).toBeCloseTo(0.025, 12))

  test.each([
    [0, 0, 0],
    [0.62, 0, 25],
    [1.25, 1, 0],
    [1.249, 1, 0],
    [12.4, 9, 46],
  ])('at %d mm the dial stands at turn %d, mark %d', (travel_mm, turns, marks) => expect(dialAt(travel_mm, rail)).toEqual({ turns, marks }))

  test('is too short for some series, and says so', () => {
    expect(() => checkTravel(100, rail)).not.toThrow()
    expect(() => checkTravel(112.4, rail)).toThrow(expect.objectContaining({ code: 'plan.railTooShort' }))
  })
})

describe('files to take along', () => {
  test('CSV: a head with units and a line a frame', () => {
    const lines = planCsv(planSeries(macro)).split('\r\n')
    expect(lines[0]).toBe('index,travel_mm,position_mm,near_mm,far_mm')
    expect(lines).toHaveLength(23)
    expect(lines[2]).toMatch(/^2,0\.62,/)
  })

  test('CSV by distances: the lens scale, and no number for infinity', () => {
    const lines = planCsv(planSeries(landscape)).trimEnd().split('\r\n')
    expect(lines[0]).toContain('scaleDistance_mm')
    expect(lines.at(-1)).toMatch(/,$/)
  })

  test('G-code: absolute millimetres, one side, a dwell and a pause a frame', () => {
    const lines = planGcode(planSeries(macro), { feed_mmPerMin: 60, settle_s: 1.5, backlash_mm: 0.2 }).trimEnd().split('\n')
    expect(lines.slice(0, 5)).toEqual([
      'G21 (millimetres)',
      'G90 (absolute positions)',
      'G92 X0 (the first frame is zero)',
      'F60',
      'G1 X-0.2000 (take up the backlash)',
    ])
    expect(lines.filter((line) => line.startsWith('M0'))).toHaveLength(21)
    expect(lines).toContain('G4 P1.5')
    const stops = lines.filter((line) => line.includes('(frame')).map((line) => Number(/X(\S+)/.exec(line)![1]))
    stops.slice(1).forEach((stop, k) => expect(stop).toBeGreaterThan(stops[k]))
    expect(lines.at(-1)).toBe('M2')
  })

  test('G-code for a plan by distances is refused', () => {
    expect(() => planGcode(planSeries(landscape), { feed_mmPerMin: 60, settle_s: 1, backlash_mm: 0 })).toThrow(
      expect.objectContaining({ code: 'plan.noRailMoves' }),
    )
  })
})
