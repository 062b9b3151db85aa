import type { Refusal } from '../words'
import { STARTER_KIT as kit } from '../kit'
import {
  comparePlans,
  nearestText,
  NEW_SHEET,
  placementOf,
  planSheet,
  positionsOf,
  readingsOf,
  requestOf,
  verdictOf,
  withGear,
  type PlanSheet,
} from '.'

const filled = (change: Partial<PlanSheet> = {}): PlanSheet => ({ ...withGear(NEW_SHEET, kit), ...change })
const planned = (change: Partial<PlanSheet> = {}) => planSheet(filled(change), kit)
const garden: Partial<PlanSheet> = { kind: 'range', lens: 'Wide 24 mm', fNumber: 8, leadIn_slices: 0, runOut_slices: 0 }

/** The field that a sheet is refused at, the code and the sentence. */
function refused(change: Partial<PlanSheet>): { field: string; code: string; message: string } | undefined {
  try {
    planSheet(filled(change), kit)
  } catch (error) {
    const { field, code, message } = error as Refusal
    return { field, code, message }
  }
  return undefined
}

describe('a new sheet', () => {
  test('takes the first of everything from the kit and can be planned at once', () => {
    const sheet = withGear(NEW_SHEET, kit)
    expect([sheet.body, sheet.lens, sheet.light, sheet.rail]).toEqual([kit.bodies[0].name, 'Macro 100 mm', 'Daylight', 'Bench rail'])
    expect(planned().plan.frameCount).toBeGreaterThan(10)
  })

  test('asks of the rail and the body what the kit says', () => {
    const { mover, timing, camera } = requestOf(filled(), kit)
    expect(mover).toEqual({ kind: 'rail', resolution_mm: 0.01 })
    expect(timing).toMatchObject({ settle_s: 2, write_s: 1, recycling_s: 0, exposuresPerFrame: 1 })
    expect(camera.pixelsWide).toBe(6000)
  })

  test('a flash brings its recycling, sensor shift its captures and finer pixels', () => {
    const { timing, camera } = requestOf(filled({ body: kit.bodies[1].name, sensorShift: true, light: 'Studio flash' }), kit)
    expect(timing).toMatchObject({ recycling_s: 1.5, exposuresPerFrame: 4 })
    expect(camera.pixelsWide).toBe(16400)
  })

  test('filters lengthen the exposure that the time is counted with', () =>
    expect(requestOf(filled({ testExposure_s: 1 / 13, filter_stops: 6 }), kit).timing.exposure_s).toBe(5))
})

describe('ways to a size in the picture', () => {
  test.each<[Partial<PlanSheet>, number]>([
    [{ reach: 'lens', magnification: 0.5 }, 0.5],
    [{ reach: 'extension', lens: 'Macro 60 mm', extension_mm: 60, baseMagnification: 1 }, 2],
    [{ reach: 'closeUp', closeUpFocalLength_mm: 200 }, 0.5],
    [{ reach: 'reversed', lens: 'Short 50 mm', extension_mm: 30 }, 1],
    [{ reach: 'faceToFace', frontFocalLength_mm: 50 }, 2],
    [{ reach: 'objective', designMagnification: 10, numericalAperture: 0.25, designTube_mm: 200, tube_mm: 100, depth_mm: 0.5 }, 5],
    [{ reach: 'ruler', acrossFrame_mm: 72 }, 0.5],
    // 100/m + 9 m + 200 = 600: the kit's nearest focus of 309 mm at life size takes 91 mm off a thin lens's 400.
    [{ reach: 'distance', distance_mm: 600 }, (400 - Math.sqrt(400 ** 2 - 4 * 9 * 100)) / 18],
  ])('%j', (change, magnification) => expect(planned({ ...change, rail: 'Motor rail' }).plan.magnification).toBeCloseTo(magnification, 9))
})

describe('what cannot be is said at its field', () => {
  test.each<[Partial<PlanSheet>, string, string]>([
    [{ depth_mm: null }, 'depth_mm', 'plan.above'],
    [{ depth_mm: -3 }, 'depth_mm', 'plan.above'],
    [{ depth_mm: NaN }, 'depth_mm', 'plan.above'],
    [{ depth_mm: 1e9 }, 'depth_mm', 'plan.tooMany'],
    [{ magnification: 0 }, 'magnification', 'plan.above'],
    [{ magnification: 1.4 }, 'magnification', 'plan.magnification'],
    [{ fNumber: 2 }, 'fNumber', 'plan.fNumber'],
    [{ overlap_percent: 120 }, 'overlap_percent', 'plan.within'],
    [{ leadIn_slices: null }, 'leadIn_slices', 'plan.within'],
    [{ depth_mm: 160 }, 'rail', 'plan.railTooShort'],
    [{ rail: 'Field rail, ruler only', magnification: 1 }, 'rail', 'plan.resolution'],
    [{ rail: 'other', resolution_mm: 0 }, 'resolution_mm', 'plan.above'],
    [{ reach: 'distance', distance_mm: 150 }, 'distance_mm', 'plan.lensCloser'],
    [{ sensorShift: true }, 'sensorShift', 'plan.noSensorShift'],
    [{ lens: 'Lent 300 mm' }, 'lens', 'plan.gearGone'],
    [{ testExposure_s: NaN }, 'testExposure_s', 'plan.above'],
    [{ criterion: 'print', printWidth_mm: null }, 'printWidth_mm', 'plan.above'],
    [{ mover: 'bracketing', body: 'Body B, 45 MP full frame' }, 'mover', 'plan.noBracketing'],
    [{ mover: 'bracketing', reach: 'objective', depth_mm: 0.4 }, 'mover', 'plan.objectiveDrive'],
    [{ ...garden, near_mm: 900, far_mm: 500 }, 'far_mm', 'plan.farNearer'],
    [{ ...garden, near_mm: 180 }, 'near_mm', 'plan.lensTooNear'],
    [{ ...garden, near_mm: 60 }, 'near_mm', 'plan.tooNear'],
  ])('%j', (change, field, code) => {
    expect(refused(change)).toMatchObject({ field, code })
    expect(refused(change)!.message).not.toContain('\n')
  })
})

describe('the body’s own bracketing', () => {
  test('moves by whole step numbers where the calibration is known, never farther than the stride', () => {
    const free = planned({ mover: 'ring', magnification: 0.5, fNumber: 8 })
    const { plan, step } = planned({ mover: 'bracketing', magnification: 0.5, fNumber: 8 })
    expect(step).toMatchObject({ calibrated: true })
    expect(plan.stride_mm).toBeCloseTo(step!.stride_mm!, 9)
    expect(plan.stride_mm).toBeLessThanOrEqual(free.plan.stride_mm + 1e-9)
    expect(plan.overlap).toBeGreaterThanOrEqual(0.3)
  })

  test('says that a suggestion is one where nothing was measured', () =>
    expect(planned({ mover: 'bracketing', magnification: 0.25 }).step).toMatchObject({
      calibrated: false,
      code: 'step.guess',
    }))

  test('numbers the parts where the body must be started again', () => {
    const sheet = filled({ mover: 'bracketing', magnification: 0.25 })
    const short = { ...kit, bodies: [{ ...kit.bodies[0], bracketMost: 10 }] }
    const chained = planSheet({ ...sheet, depth_mm: 200 }, short)
    const { columns, of } = readingsOf(chained, sheet)
    expect(columns[0]).toBe('Part and frame')
    expect(chained.plan.frames.map((frame, shot) => of(frame, shot)[0]).slice(8, 12)).toEqual(['part 1, 9', 'part 1, 10', 'part 2, 2', 'part 2, 3'])
  })
})

describe('positions', () => {
  test('of a dial, from the end that is shot first', () => {
    const near = positionsOf(planned(), filled())
    expect(near.columns[0]).toBe('Dial')
    expect(near.rows[0]).toMatchObject({ index: 1, cells: expect.arrayContaining(['turn 0, mark 0']) })
    const sheet = filled({ direction: 'far' })
    const far = positionsOf(planned({ direction: 'far' }), sheet)
    expect(far.rows[0].index).toBe(near.rows.length)
    expect(far.rows[0].cells[0]).toBe('turn 0, mark 0')
    expect(far.rows[1].cells[0]).toMatch(/^back turn 0, mark \d+$/)
    expect(far.rows.at(-1)!.cells[0]).toBe(`back ${near.rows.at(-1)!.cells[0]}`)
  })

  test('of a ruler in fractions, of a motor in microsteps', () => {
    const coarse: Partial<PlanSheet> = { rail: 'Field rail, ruler only', magnification: 0.3, depth_mm: 40, fNumber: 11, railStart_mm: 25.4 }
    const { rows, columns } = positionsOf(planned(coarse), filled(coarse), 'inches')
    expect(columns[0]).toBe('Ruler')
    expect(rows[0].cells[0]).toBe('1″')
    expect(rows[1].cells[0]).toMatch(/^1 \d+\/\d+″$/)
    const motor = positionsOf(planned({ rail: 'Motor rail' }), filled({ rail: 'Motor rail' }))
    expect(motor.columns.slice(0, 2)).toEqual(['Rail, from the first frame', 'Microsteps'])
    expect(Number(motor.rows[1].cells[1])).toBe(Math.round(planned({ rail: 'Motor rail' }).plan.stride_mm * 3200))
  })

  test('of a ring close up by the subject: no scale tells such steps apart', () => {
    const marked = { ...kit, lenses: kit.lenses.map((lens) => ({ ...lens, scaleMarks: '0.31 0.35 0.4 0.5 1 ∞' })) }
    for (const known of [kit, marked])
      expect(positionsOf(planSheet(filled({ mover: 'ring' }), known), filled()).columns[0]).toBe('Focus, from the near edge')
  })

  test('of a landscape with the targets each frame is for', () => {
    const sheet = filled({
      ...garden,
      targets: [
        { name: 'gate', distance_mm: 9000 },
        { name: 'hill', distance_mm: null },
        { name: ' ', distance_mm: 1 },
      ],
    })
    const { columns, rows } = positionsOf(planSheet(sheet, kit), sheet)
    expect(columns.at(-1)).toBe('For')
    expect(rows.at(-1)!.cells.at(-1)).toContain('hill')
    expect(rows.map(({ cells }) => cells.at(-1)).join()).toContain('gate')
  })
})

describe('the verdict', () => {
  const of = (change: Partial<PlanSheet>) => {
    const { plan, request, gear } = planned(change)
    return verdictOf(plan, request, gear.lens)
  }

  test('says frames, stride, time and storage', () => expect(of({}).headline).toMatch(/^\d+ frames, 0\.\d+ mm apart, .*s, .*B$/))
  test('a range is moved by the ring', () => expect(of(garden).headline).toMatch(/^\d+ frames by the focus ring/))
  test('says when one frame is enough, margins or not', () => {
    expect(of({ depth_mm: 0.1 }).headline).toBe('One frame at f/5.6 is enough')
    expect(of({ ...garden, near_mm: 90_000 }).headline).toBe('One frame at f/8 is enough')
  })
  test('names the aperture that saves the series, as far as the lens goes', () => {
    const saved = of({ depth_mm: 1.4, blur_pixels: 6 })
    expect(saved.headline).toMatch(/^One frame at f\/\d+ is enough$/)
    expect(saved.rest).toContain('At f/5.6, as set: ')
    const ends = of({ ...garden, lens: 'Short 50 mm', near_mm: 2600, blur_pixels: 5 })
    expect(ends.rest).toContain('this lens only goes to f/16')
    expect(of({}).rest).toContain('does not hold')
  })
})

describe('two plans', () => {
  test('the same has nothing to say', () => expect(comparePlans(planned(), planned()).every(({ said }) => said === '')).toBe(true))
  test('what a smaller opening means is said', () => {
    const said = comparePlans(planned(), planned({ fNumber: 11 })).map((difference) => `${difference.what}: ${difference.said}`)
    expect(said).toContain('Frames: fewer frames')
    expect(said).toContain('Blur of diffraction: softer everywhere')
    expect(said).toContain('Magnification: ')
  })
})

describe('where the subject stands', () => {
  test('at its nearest focus a lens is as far from the sensor as the kit says, nearer than a thin lens would be', () => {
    const { near_mm, free_mm } = placementOf(planned({ magnification: 1 }), filled({ magnification: 1 }))
    expect(near_mm).toBeCloseTo(309, 6)
    expect(free_mm).toBeCloseTo(309 - 20 - 125, 6)
  })

  test('a distance that is entered is the distance that is told', () => {
    const change: Partial<PlanSheet> = { reach: 'distance', distance_mm: 500 }
    expect(placementOf(planned(change), filled(change)).near_mm).toBeCloseTo(500, 6)
    expect(planned({ reach: 'distance', distance_mm: 309 }).plan.magnification).toBeCloseTo(1, 6)
    expect(refused({ reach: 'distance', distance_mm: 300 })).toMatchObject({ field: 'distance_mm', code: 'plan.lensCloser' })
  })

  test('tubes take their own room away from before the lens', () => {
    const change: Partial<PlanSheet> = { lens: 'Macro 60 mm', reach: 'extension', extension_mm: 60, baseMagnification: 0 }
    // At life size the subject lies 4 f from the sensor; body, tubes and lens stand in between.
    const { free_mm, near_mm } = placementOf(planned(change), filled(change))
    expect(near_mm).toBeCloseTo(240, 6)
    expect(free_mm).toBeCloseTo(240 - 20 - 60 - 90, 6)
    expect(nearestText(planned(change), filled(change), 'metric')).toBe('240 mm from the sensor, about 70 mm free before the lens')
  })

  test.each<Partial<PlanSheet>>([
    { lens: 'Wide 24 mm', reach: 'extension', extension_mm: 24, baseMagnification: 0, depth_mm: 1, rail: 'Motor rail' },
    { lens: 'Short 50 mm', reach: 'reversed', extension_mm: 60, depth_mm: 1, rail: 'Motor rail' },
  ])('what cannot be reckoned is not known: %j', (change) => {
    expect(placementOf(planned(change), filled(change)).free_mm).toBeUndefined()
    expect(nearestText(planned(change), filled(change), 'metric')).toMatch(/^not known/)
  })
})
