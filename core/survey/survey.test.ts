import { SimulatedSeries, type Fault } from '../simulate'
import type { Picture } from '../raster'
import { Survey, type SurveyReport } from '.'

/** A small run by the ring, far enough on both sides; its frames are shot once and surveyed in many ways. */
const COUNT = 14
let frames: Picture[]
let clean: SimulatedSeries
const names = Array.from({ length: COUNT }, (_, k) => `f_${String(k).padStart(2, '0')}.jpg`)

function series(faults: Fault[] = []): SimulatedSeries {
  return new SimulatedSeries({
    scene: 'fossil',
    seed: 5,
    camera: { sensorWidth_mm: 36, width_px: 300, height_px: 200, focalLength_mm: 100, fNumber: 5.6, magnification: 1, mover: 'ring' },
    positions_mm: names.map((_, k) => -1 + 0.85 * k),
    unsteadiness: { shift_px: 0.4, rotation_deg: 0.03, exposure_ev: 0.02 },
    fullWell: 30_000,
    faults,
  })
}

beforeAll(() => {
  clean = series()
  frames = names.map((_, k) => clean.shoot(k).picture)
})

const places = names.map((_, k) => k)

function survey(order: number[], change: Record<number, Picture> = {}, mover?: 'ring' | 'rail'): SurveyReport {
  const made = new Survey(mover)
  order.forEach((k) => made.add(names[k], change[k] ?? frames[k]))
  return made.finish()
}

const filesOf = ({ frames: list }: SurveyReport) => list.map(({ file }) => file)

function changed(k: number, change: (value: number, channel: number) => number): Record<number, Picture> {
  const { width, height, planes } = frames[k]
  const [red, green, blue] = planes.map((plane, channel) => ({ ...plane, data: plane.data.map((value) => change(value, channel)) }))
  return { [k]: { width, height, planes: [red, green, blue] } }
}

describe('a clean run', () => {
  test('is complete, near to far, and every frame is used', () => {
    const report = survey(places)
    expect(filesOf(report)).toEqual(names)
    expect(report).toMatchObject({ order: 'near-to-far', coverage: { nearEnd: 'reached', farEnd: 'reached', gaps: [] }, messages: [] })
    expect(report.frames.every(({ role, reason }) => role === 'use' && reason === '')).toBe(true)
    expect(report.exposure.spread_ev).toBeLessThan(0.2)
  })

  test('is put in order whatever the names, and which way the names run is said', () => {
    const shuffled = [3, 11, 0, 7, 13, 5, 9, 1, 12, 6, 2, 10, 4, 8]
    const [mixed, backwards] = [survey(shuffled), survey(places.toReversed(), {}, 'ring')]
    expect([mixed.order, backwards.order]).toEqual(['mixed', 'far-to-near'])
    expect(filesOf(mixed)).toEqual(names)
    expect(filesOf(backwards)).toEqual(names)
  })

  test('a rail that comes closer is not taken for a ring if the mover is given', () => {
    // The same pictures, shrinking along the names: on a rail that would be a camera drawing back.
    expect(filesOf(survey(places, {}, 'rail'))).toEqual(names.toReversed())
  })
})

describe('what is missing', () => {
  test('a gap is named between its frames, with how many are missing', () => {
    const { coverage, messages } = survey(places.filter((k) => k < 5 || k > 7))
    expect(coverage.gaps).toEqual([{ after: 'f_04.jpg', before: 'f_08.jpg', missing: 3 }])
    expect(messages).toMatchObject([{ code: 'gap', files: ['f_04.jpg', 'f_08.jpg'], missing: 3 }])
    expect(survey(places.filter((k) => k !== 6)).coverage.gaps).toEqual([{ after: 'f_05.jpg', before: 'f_07.jpg', missing: 1 }])
  })

  test('a gap that a dark frame left names that frame, and why it is left out', () => {
    const { messages, frames: list } = survey(
      places,
      changed(6, (value) => value * 0.2),
    )
    expect(list.find(({ file }) => file === 'f_06.jpg')).toMatchObject({ role: 'flawed', reasonCode: 'dark' })
    expect(messages.filter(({ code }) => code === 'gap')).toMatchObject([{ files: ['f_05.jpg', 'f_07.jpg', 'f_06.jpg'], missing: 1 }])
    expect(messages[0].text).toContain('f_06.jpg is left out')
  })

  test('an end that is not reached is called short', () => {
    expect(survey(places.slice(0, -6)).coverage).toMatchObject({ nearEnd: 'reached', farEnd: 'short' })
    expect(survey(places.slice(6)).coverage).toMatchObject({ nearEnd: 'short', farEnd: 'reached' })
  })

  test('how much is sharp in no frame, and where, as the scene itself has it', () => {
    const short = survey(places.slice(0, -6))
    const { unsharp } = short.coverage
    const depth = clean.truthDepth_mm()
    // A point 1.7 mm beyond the plane of focus blurs to 1.7 mm / (2 · f/5.6) = 0.15 mm of 36, 1.25 px.
    const last_mm = -1 + 0.85 * (COUNT - 7)
    const beyond_percent = (100 * depth.data.filter((mm) => mm > last_mm + 1.7).length) / depth.data.length
    expect(beyond_percent).toBeGreaterThan(15)
    expect(Math.abs(unsharp!.far_percent - beyond_percent)).toBeLessThan(12)
    expect(unsharp).toMatchObject({ near_percent: 0, between_percent: 0, file: 'f_04.jpg' })
    expect(short.messages).toMatchObject([{ code: 'far-short', files: ['f_07.jpg'], missing: unsharp!.missing.far }])
    // Of the parts marked, hardly any is one that the last frames show sharp.
    const { map } = unsharp!
    const [across, down] = [depth.width / map[0].length, depth.height / map.length]
    const marked = depth.data.filter((_, i) => map[Math.floor(i / depth.width / down)][Math.floor((i % depth.width) / across)] === 'f')
    expect(marked.filter((mm) => mm < last_mm).length / marked.length).toBeLessThan(0.1)
    expect(survey(places).coverage.unsharp).toMatchObject({ share_percent: 0 })
  })

  test('three of four frames left out: slices do not touch, said once', () => {
    const report = survey(places.filter((k) => k % 4 === 0))
    expect(report.messages.map(({ code }) => code)).toContain('loose')
    expect(report.messages.map(({ code }) => code)).not.toContain('gap')
    expect(report.coverage.gaps).toMatchObject([
      { after: 'f_00.jpg', before: 'f_04.jpg' },
      { after: 'f_04.jpg', before: 'f_08.jpg' },
      { after: 'f_08.jpg', before: 'f_12.jpg' },
    ])
  })

  test('of two frames nothing can be said', () => expect(survey([0, 1]).messages).toMatchObject([{ code: 'too-few' }]))
})

describe('frames that do not belong', () => {
  const roleAt = (report: SurveyReport, k: number) => report.frames.find(({ file }) => file === names[k])!

  test('one without flash, one of another colour, one too bright', () => {
    expect(
      roleAt(
        survey(
          places,
          changed(6, (v) => v * 0.4),
        ),
        6,
      ),
    ).toMatchObject({ role: 'flawed', reasonCode: 'dark' })
    expect(
      roleAt(
        survey(
          places,
          changed(6, (v, channel) => (channel === 0 ? v * 1.15 : v)),
        ),
        6,
      ),
    ).toMatchObject({
      role: 'flawed',
      reasonCode: 'colour',
    })
    expect(
      roleAt(
        survey(
          places,
          changed(6, (v) => Math.min(1, v * 1.5)),
        ),
        6,
      ).role,
    ).toBe('flawed')
  })

  test('a hand before the lens is a divider, and the series goes on around it', () => {
    const report = survey(
      places,
      changed(6, (_, channel) => 0.4 - 0.1 * channel),
    )
    expect(roleAt(report, 6)).toMatchObject({ role: 'divider' })
    expect(report.frames.filter(({ role }) => role === 'use')).toHaveLength(COUNT - 1)
  })

  test('a frame taken twice adds nothing', () => {
    const report = survey(places, { 7: frames[6] })
    expect([roleAt(report, 6).role, roleAt(report, 7).role].sort()).toEqual(['idle', 'use'])
  })
})

describe('faults of the stand-ins', () => {
  const surveyed = (fault: Fault) => {
    const run = series([fault])
    const made = new Survey('ring')
    for (let k = 0; k < run.count; k++) made.add(names[k] ?? `f_${k}.jpg`, run.shoot(k).picture)
    return made.finish()
  }

  test('a bump is named where it happened', () => {
    const { messages } = surveyed({ kind: 'bump', frame: 8, shift_percent: 3 })
    expect(messages).toMatchObject([{ code: 'moved', files: [names[6], names[7]] }])
  })

  test('a frame that shook is flawed', () => {
    const report = surveyed({ kind: 'shake', frame: 7, length_px: 6 })
    expect(report.frames.find(({ file }) => file === names[6])).toMatchObject({ role: 'flawed', reasonCode: 'shaken' })
  })
})
