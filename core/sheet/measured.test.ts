import { STARTER_KIT, type Calibration, type Kit, type Lens } from '../kit'
import { NEW_SHEET, planSheet, positionsOf, readingsOf, runCardOf, settingOf, shootingOrder, withGear, type PlanSheet } from '.'

const kitWith = (calibrations: Calibration[], lens: Partial<Lens> = {}): Kit => ({
  ...STARTER_KIT,
  lenses: STARTER_KIT.lenses.map((each, k) => (k === 0 ? { ...each, ...lens } : each)),
  calibrations,
})
const sheetOf = (change: Partial<PlanSheet>) => ({ ...withGear(NEW_SHEET, STARTER_KIT), ...change })
const railRun = (stride_mm: number, rest: Partial<Calibration> = {}): Calibration => ({
  name: `run of ${stride_mm}`,
  kind: 'rail',
  rail: 'Bench rail',
  dial_mm: 0.5,
  stride_mm,
  ...rest,
})

describe('a rail that runs were measured on', () => {
  const sheet = sheetOf({ mover: 'rail', rail: 'Bench rail', direction: 'near' })
  const plain = planSheet(sheet, kitWith([]))
  /** What the dial is turned by over the whole series, in mm by its screw of 0.5 mm and 50 marks. */
  const byDial = (planned: ReturnType<typeof planSheet>) => {
    const [, turns, marks] = /turn (\d+), mark (\d+)/.exec(positionsOf(planned, sheet).rows.at(-1)!.cells[0])!
    return 0.5 * (Number(turns) + Number(marks) / 50)
  }

  test('is turned farther where it goes less far than its screw says, so that the frames lie where they are planned', () => {
    const planned = planSheet(sheet, kitWith([railRun(0.4), railRun(0.4)]))
    const travel = planned.plan.frames.at(-1)!.travel_mm! - planned.plan.frames[0].travel_mm!
    expect(byDial(planned) / travel).toBeCloseTo(1.25, 2)
    expect(byDial(plain) / (plain.plan.frames.at(-1)!.travel_mm! - plain.plan.frames[0].travel_mm!)).toBeCloseTo(1, 2)
    expect(planned.told).toMatchObject({ code: 'rail.measured', text: expect.stringContaining('80.0 %') })
    expect(plain.told).toBeUndefined()
    expect(runCardOf(planned, sheet, { title: '', subject: '' }).settings).toContainEqual({ label: 'Measured', value: planned.told!.text })
  })

  test('runs that do not agree are told of, and one that is left out is not planned with', () => {
    const both = [railRun(0.5), railRun(0.6)]
    expect(planSheet(sheet, kitWith(both)).told).toMatchObject({ code: 'rail.conflict', text: expect.stringContaining('100.0 % to 120.0 %') })
    const one = planSheet(sheet, kitWith([both[0], { ...both[1], leftOut: true }]))
    expect(one.told?.code).toBe('rail.measured')
    expect(byDial(one)).toBeCloseTo(byDial(plain), 9)
  })

  test('what a run was set to is by the dial, whatever was known of it then', () => {
    const known = planSheet(sheet, kitWith([railRun(0.4)]))
    const [first, again] = [plain, known].map((planned) => settingOf(planned, sheet))
    expect(first).toMatchObject({ kind: 'rail', rail: 'Bench rail', dial_mm: expect.closeTo(plain.plan.stride_mm, 9) })
    expect(again).toMatchObject({ dial_mm: expect.closeTo(known.plan.stride_mm / 0.8, 9) })
    expect(
      settingOf(planSheet(sheetOf({ mover: 'rail', rail: 'Field rail, ruler only', magnification: 0.1, depth_mm: 120 }), STARTER_KIT), sheet),
    ).toBeUndefined()
  })
})

describe('a ring without a scale', () => {
  const sheet = sheetOf({ mover: 'ring', magnification: 0.5, depth_mm: 20, fNumber: 8, direction: 'near' })
  const cells = (planned: ReturnType<typeof planSheet>) => positionsOf(planned, sheet).rows.map((row) => row.cells[0])

  test('nothing is said where nobody knows how it turns', () => {
    expect(positionsOf(planSheet(sheet, kitWith([])), sheet).columns[0]).toBe('Focus, from the near edge')
  })

  test('is turned on by degrees from the first frame, which add up to what the lens’s extension needs', () => {
    const planned = planSheet(sheet, kitWith([], { ringTurn_deg: 300 }))
    expect(positionsOf(planned, sheet).columns[0]).toBe('Ring, from the first frame')
    const readings = cells(planned)
    expect(readings[0]).toBe('as it stands')
    // From m to m' by 300° for the lens's whole magnification, 1: f (1/m' − 1/m) is the way of the focus.
    const way = planned.plan.frames.at(-1)!.position_mm! - planned.plan.frames[0].position_mm!
    const near = 100 / (100 / 0.5 + planned.plan.frames[0].position_mm!)
    const turned = 300 * (near - 1 / (1 / near + way / 100))
    expect(Math.abs(Number.parseFloat(readings.at(-1)!) - turned)).toBeLessThanOrEqual(0.25)
    const more = readings.slice(2).map((reading) => Number(/, ([\d.]+)° more$/.exec(reading)![1]))
    expect(more.reduce((sum, each) => sum + each, Number.parseFloat(readings[1]))).toBeCloseTo(Number.parseFloat(readings.at(-1)!), 6)
    expect(readings[1]).toMatch(/^[\d.]+° towards ∞$/)
    expect(runCardOf(planned, sheet, { title: '', subject: '' }).how.steps[0]).toMatch(/^turn the ring on/)
  })

  test('far end first it is turned nearer; a frame that was not planned is told from the first', () => {
    const far = { ...sheet, direction: 'far' as const }
    const planned = planSheet(far, kitWith([], { ringTurn_deg: 300 }))
    expect(positionsOf(planned, far).rows[1].cells[0]).toMatch(/° nearer$/)
    const [, second] = shootingOrder(planned, far)
    expect(readingsOf(planned, far).of({ ...second, position_mm: second.position_mm! - 0.7 }, 3)[0]).toMatch(/^[\d.]+° nearer$/)
  })

  test('clicks of a drive are whole ones, and a stride is no more of them than wanted', () => {
    const planned = planSheet(sheet, kitWith([], { driveClicks: 2000 }))
    expect(positionsOf(planned, sheet).columns[0]).toBe('Clicks, from the first frame')
    expect(
      cells(planned)
        .slice(1)
        .every((cell) => /^\d+ towards ∞(, \d+ more)?$/.test(cell)),
    ).toBe(true)
    expect(planned.told).toMatchObject({ code: 'click.reckoned', text: expect.stringContaining('0.200 mm') })
    expect(planned.plan.stride_mm).toBeLessThanOrEqual(planSheet(sheet, kitWith([])).plan.stride_mm)
    expect(runCardOf(planned, sheet, { title: '', subject: '' }).how.steps[0]).toMatch(/^click the focus drive on/)
  })

  test('a run by clicks tells how far they go, and the next plan counts by that', () => {
    const first = planSheet(sheet, kitWith([], { driveClicks: 2000 }))
    const set = settingOf(first, sheet)
    if (set?.kind !== 'click') throw new Error('a run by clicks')
    // The drive goes a quarter farther than its clicks say.
    const run: Calibration = { name: 'run', lens: 'Macro 100 mm', ...set, stride_mm: 1.25 * first.plan.stride_mm, spread_mm: 0.01 }
    const next = planSheet(sheet, kitWith([run], { driveClicks: 2000 }))
    expect(next.told).toMatchObject({ code: 'click.measured', text: expect.stringContaining('0.250 mm') })
    const [before, now] = [first, next].map((planned) => {
      const way = planned.plan.frames.at(-1)!.position_mm! - planned.plan.frames[0].position_mm!
      return Number.parseInt(cells(planned).at(-1)!) / way
    })
    expect(before / now).toBeCloseTo(1.25, 1)
    const other = { ...run, name: 'other', stride_mm: first.plan.stride_mm }
    expect(planSheet(sheet, kitWith([run, other])).told?.code).toBe('click.conflict')
    expect(planSheet(sheet, kitWith([{ ...run, leftOut: true }])).told).toBeUndefined()
  })

  test('a drive whose click is longer than a slice is refused', () => {
    expect(() => planSheet(sheet, kitWith([], { driveClicks: 60 }))).toThrow(expect.objectContaining({ code: 'plan.resolution' }))
  })

  test('of a landscape it is turned from one distance to the next', () => {
    const range = { ...sheet, kind: 'range' as const, lens: 'Macro 100 mm', near_mm: 2000, far_mm: null, fNumber: 8 }
    const planned = planSheet(range, kitWith([], { ringTurn_deg: 300 }))
    const { columns, rows } = positionsOf(planned, range)
    const at = columns.indexOf('Ring, from the first frame')
    const [first, last] = [planned.plan.frames[0], planned.plan.frames.at(-1)!].map(({ focusDistance_mm: u }) => 100 / (u! - 100))
    expect(Math.abs(Number.parseFloat(rows.at(-1)!.cells[at]) - 300 * (first - last))).toBeLessThanOrEqual(0.25)
  })
})
