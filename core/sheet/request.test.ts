import fc from 'fast-check'
import { STARTER_KIT as kit } from '../kit'
import { lightSettingsOf, NEW_SHEET, planSheet, reachOf, requestOf, sheetOf, targetsOf, withGear, type PlanSheet } from '.'

const filled = (change: Partial<PlanSheet> = {}): PlanSheet => ({ ...withGear(NEW_SHEET, kit), ...change })

/** Anything that can stand in a field of numbers. */
const given = fc.oneof(
  { weight: 40, arbitrary: fc.double({ min: 0.001, max: 3000, noNaN: true }) },
  { weight: 1, arbitrary: fc.constantFrom(null, NaN, 0, -1, Infinity, 1e12) },
)
/** Numbers as people give them, now and then something that is none. */
function usually(ranges: Record<string, [number, number]>) {
  return Object.fromEntries(
    Object.entries(ranges).map(([key, [min, max]]) => [
      key,
      fc.oneof(
        { weight: 40, arbitrary: fc.double({ min, max, noNaN: true }) },
        { weight: 1, arbitrary: fc.constantFrom(null, NaN, 0, -1, Infinity, 1e12) },
      ),
    ]),
  )
}

const pick = <T>(...values: T[]) => fc.constantFrom(...values)

const numbers = Object.fromEntries(
  Object.entries(NEW_SHEET)
    .filter(([key, value]) => typeof value === 'number' || key.endsWith('_mm') || key === 'settle_s')
    .map(([key]) => [key, given]),
)

const anySheet = fc.record({
  ...numbers,
  kind: pick('depth', 'range'),
  from: pick('lens', 'sensor'),
  reach: pick('lens', 'extension', 'closeUp', 'reversed', 'faceToFace', 'objective', 'ruler', 'distance'),
  criterion: pick('pixels', 'coc', 'print'),
  mover: pick('rail', 'ring', 'bracketing'),
  direction: pick('near', 'far'),
  body: pick(...kit.bodies.flatMap(({ name }) => [name, name, name]), 'Body nobody has'),
  lens: pick('Macro 100 mm', 'Macro 100 mm', 'Macro 60 mm', ...kit.lenses.map(({ name }) => name)),
  light: pick(...kit.lights.map(({ name }) => name)),
  rail: pick(...kit.rails.map(({ name }) => name), 'other'),
  sensorShift: pick(false, false, false, false, true),
  handMetered: fc.boolean(),
  diffraction: fc.boolean(),
  // Numbers that a plan hardly ever survives at random.
  overlap_percent: fc.oneof(fc.double({ min: 0, max: 95, noNaN: true }), given),
  leadIn_slices: fc.oneof(fc.double({ min: 0, max: 3, noNaN: true }), given),
  runOut_slices: fc.oneof(fc.double({ min: 0, max: 3, noNaN: true }), given),
  fNumber: fc.oneof(fc.double({ min: 2.8, max: 16, noNaN: true }), given),
  wavelength_nm: fc.oneof(pick(450, 550, 650), given),
  testExposure_s: fc.oneof(pick(0.01, 1), given),
  filter_stops: pick(0, 0, 3, 6, 6, 10, 10, NaN),
  polariser_stops: pick(0, 1.5),
  headroom_stops: pick(0, 1),
  settle_s: pick(null, 0, 2),
  delay_s: pick(0, 2),
  interval_s: pick(0, 5),
  numericalAperture: pick(0.05, 0.14, 0.25, 1.4),
  magnification: fc.double({ min: 0.05, max: 1, noNaN: true }),
  background_mm: given,
  ...usually({
    depth_mm: [0.1, 20],
    near_mm: [450, 5000],
    blur_pixels: [1, 8],
    coc_mm: [0.01, 0.1],
    extension_mm: [10, 80],
    baseMagnification: [0, 1],
    acrossFrame_mm: [20, 200],
    distance_mm: [250, 3000],
    closeUpFocalLength_mm: [100, 500],
    frontFocalLength_mm: [30, 100],
    frontFNumber: [1.4, 8],
    designMagnification: [2, 10],
    designTube_mm: [160, 200],
    tube_mm: [100, 200],
    printWidth_mm: [200, 900],
    viewingDistance_mm: [300, 1000],
    resolution_mm: [0.001, 0.05],
  }),
})

test('whatever stands in the fields is planned without a NaN, or refused in one sentence at a field of the sheet', () => {
  let plans = 0
  fc.assert(
    fc.property(anySheet, (random) => {
      const sheet = { ...filled(), ...random } as PlanSheet
      try {
        const { plan } = planSheet(sheet, kit)
        plans++
        expect(JSON.stringify(plan, (_, value) => (Number.isNaN(value) ? 'NaN' : value))).not.toContain('NaN')
        expect(plan.frameCount).toBe(plan.frames.length)
      } catch (error) {
        const { name, field, message } = error as Error & { field: string }
        expect(name).toBe('Refusal')
        expect(message).toMatch(/^[^\n]{10,260}$/)
        expect(Object.keys(NEW_SHEET)).toContain(field)
      }
    }),
    { numRuns: 3000, endOnFailure: true, seed: 11 },
  )
  expect(plans).toBeGreaterThan(200)
})

describe('a request', () => {
  test('by distances has no magnification, no rail, and infinity for an empty far end', () => {
    const { optics, mover, subject } = requestOf(filled({ kind: 'range', mover: 'rail' }), kit)
    expect(optics).not.toHaveProperty('magnification')
    expect(mover).toEqual({ kind: 'ring' })
    expect(subject).toMatchObject({ kind: 'range', far_mm: Infinity })
  })

  test.each<[Partial<PlanSheet>, object]>([
    [
      { criterion: 'pixels', blur_pixels: 2 },
      { kind: 'pixels', count: 2 },
    ],
    [
      { criterion: 'coc', coc_mm: 0.02 },
      { kind: 'coc', coc_mm: 0.02 },
    ],
    [
      { criterion: 'print', printWidth_mm: 400, viewingDistance_mm: 300 },
      { kind: 'print', width_mm: 400, viewingDistance_mm: 300 },
    ],
  ])('%j is sharp enough by %j', (change, sharpness) => expect(requestOf(filled(change), kit).sharpness).toEqual(sharpness))

  test('settles as the rail needs where nothing is said, as said otherwise', () => {
    expect(requestOf(filled({ rail: 'Motor rail' }), kit).timing.settle_s).toBe(1)
    expect(requestOf(filled({ rail: 'Motor rail', settle_s: 0 }), kit).timing.settle_s).toBe(0)
    expect(requestOf(filled({ mover: 'ring' }), kit).timing.settle_s).toBe(2)
  })

  test('a reversed lens takes the register from the body', () =>
    expect(reachOf(filled({ reach: 'reversed', extension_mm: 0 }), { body: kit.bodies[1], lens: kit.lenses[0] })).toEqual({
      kind: 'reversed',
      register_mm: 18,
      extension_mm: 0,
    }))

  test('a hand meter needs what extension takes', () => {
    const byHand = requestOf(filled({ handMetered: true }), kit).timing.exposure_s
    expect(byHand / requestOf(filled(), kit).timing.exposure_s).toBeCloseTo(4, 6)
    expect(lightSettingsOf(filled({ handMetered: true }))).toMatchObject({ handMetered: true, filter_stops: 0 })
  })
})

test('targets without a name are none, an empty distance is the horizon, what is no length is left out', () => {
  const targets = [
    { name: ' gate ', distance_mm: 9000 },
    { name: '', distance_mm: 100 },
    { name: 'hill', distance_mm: null },
    { name: 'typing', distance_mm: NaN },
  ]
  expect(targetsOf(filled({ targets, from: 'lens' }), 24)).toEqual([
    { name: 'gate', distance_mm: 9000 },
    { name: 'hill', distance_mm: Infinity },
  ])
})

test('targets are measured as the plan is: one that stands at the nearest point does so in both', () => {
  const change: Partial<PlanSheet> = { kind: 'range', lens: 'Wide 24 mm', fNumber: 8, near_mm: 550, targets: [{ name: 'trough', distance_mm: 550 }] }
  const [trough] = targetsOf(filled(change), 24)
  expect(trough.distance_mm).toBeCloseTo(planSheet(filled(change), kit).plan.workingDistance_mm, 9)
})

test('a sheet from before, with distances from the lens, plans the same and shows them as the plan is measured', () => {
  const before = filled({
    kind: 'range',
    lens: 'Wide 24 mm',
    distancesFrom: 'lens',
    distance_mm: 200,
    targets: [{ name: 'gate', distance_mm: 1000 }],
  })
  const after = withGear(before, kit)
  // 24 mm focused at 1 m images at 24.59 mm, so that the sensor stands 1024.59 mm away.
  expect(after.targets).toEqual([{ name: 'gate', distance_mm: 1025 }])
  expect(targetsOf(after, 24)[0].distance_mm).toBeCloseTo(1000, 0)
  expect(withGear(after, kit)).toEqual(after)
})

describe('a plan that came without a sheet', () => {
  const back = (change: Partial<PlanSheet>) => {
    const request = requestOf(filled(change), kit)
    return { request, sheet: withGear(sheetOf(request, kit), kit) }
  }

  test.each<[string, Partial<PlanSheet>]>([
    ['by the lens itself', { magnification: 0.5 }],
    ['on tubes', { lens: 'Macro 60 mm', reach: 'extension', extension_mm: 90, baseMagnification: 0, rail: 'Motor rail' }],
    ['behind a close-up lens', { reach: 'closeUp', closeUpFocalLength_mm: 250 }],
    ['with an objective', { reach: 'objective', depth_mm: 0.3, rail: 'Motor rail' }],
    ['for a print', { criterion: 'print' }],
    ['by distances', { kind: 'range', lens: 'Wide 24 mm', fNumber: 8, near_mm: 700, far_mm: 9000 }],
    ['on a rail that the kit has not', { rail: 'other', resolution_mm: 0.007 }],
  ])('%s gets the fields that plan the same', (_, change) => {
    const { request, sheet } = back(change)
    const again = planSheet(sheet, kit)
    expect(again.plan.frameCount).toBe(planSheet(filled(change), kit).plan.frameCount)
    expect(again.request.sharpness).toEqual(request.sharpness)
    expect(again.request.subject).toEqual(request.subject)
    expect(again.request.mover).toEqual(request.mover)
  })
})
