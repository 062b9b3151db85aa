import { createPlane, type Plane } from '../../raster'
import { isRefusal } from '../../words'
import { SimulatedSeries, USUAL_SHEET, type CameraSetup, type SheetSetup } from '../../simulate'
import { lightOf, TargetMeasure, type TargetFacts } from '.'

const camera: CameraSetup = { sensorWidth_mm: 36, width_px: 900, height_px: 600, focalLength_mm: 100, fNumber: 5.6, magnification: 1, mover: 'rail' }
/** Blur of two px allowed. */
const SLICE_mm = (4 * (36 / 900) * 5.6 * 2) / 1
const OFFSETS_mm = [-1.5, -0.1, 1.2]

/** What frames of the sheet show in light, focused so far behind its middle. */
function lights(sheet: Partial<SheetSetup> = {}, change: Partial<CameraSetup> = {}, scene = 'target'): Plane[] {
  const whole = { ...USUAL_SHEET, ...sheet }
  const depth_mm = 66 * whole.pitch_mm * Math.sin((whole.tilt_deg * Math.PI) / 180)
  const series = new SimulatedSeries({
    scene,
    seed: 4,
    sheet: whole,
    camera: { ...camera, ...change },
    positions_mm: scene === 'target' ? OFFSETS_mm.map((at) => depth_mm / 2 + at) : [1, 2, 3],
    unsteadiness: { shift_px: 0.5, rotation_deg: 0.02, exposure_ev: 0.03 },
    fullWell: 12_000,
  })
  return OFFSETS_mm.map((_, k) => lightOf(series.shoot(k).picture))
}

function measured(planes: Plane[], facts: TargetFacts = { pitch_mm: 1, sensorWidth_mm: 36, fNumber: 5.6 }) {
  const measure = new TargetMeasure()
  planes.forEach((plane, k) => measure.add(`f${k}`, plane))
  return measure.finish(facts)
}

const refusedWith = (work: () => unknown) => {
  try {
    work()
  } catch (error) {
    if (isRefusal(error)) return error.code
    throw error
  }
  return undefined
}

describe('frames of the printed sheet', () => {
  const straight = lights()

  test('tell their planes of focus to a tenth of a slice, the tilt, the size and the depth of field', () => {
    const { frames, tilt_deg, stride_mm, depthOfFieldRatio, magnification } = measured(straight)
    frames.forEach(({ focus_mm }, k) => expect(Math.abs((focus_mm ?? NaN) - OFFSETS_mm[k])).toBeLessThan(0.1 * SLICE_mm))
    expect(tilt_deg).toBeCloseTo(45, 0)
    expect(stride_mm! / ((OFFSETS_mm[2] - OFFSETS_mm[0]) / 2)).toBeCloseTo(1, 1)
    expect(magnification).toBeCloseTo(1, 1)
    expect(Math.abs(depthOfFieldRatio! - 1)).toBeLessThan(0.1)
    for (const { depthOfField_mm } of frames) expect(Math.abs(depthOfField_mm! / SLICE_mm - 1)).toBeLessThan(0.1)
  })

  test('lengths go with the distance of the dots as it was printed, and the allowed blur with what is allowed', () => {
    const [one, other] = [measured(straight), measured(straight, { pitch_mm: 1.1, allowedBlur_px: 4 })]
    other.frames.forEach(({ focus_mm, depthOfField_mm }, k) => {
      expect(focus_mm).toBeCloseTo(1.1 * one.frames[k].focus_mm!, 9)
      expect(depthOfField_mm).toBeCloseTo(2.2 * one.frames[k].depthOfField_mm!, 9)
    })
    expect([other.magnification, other.depthOfFieldRatio, other.sharpest]).toEqual([null, null, null])
  })

  test('turned, rolled, upside down: the same planes', () => {
    const upside = straight.map(({ data, ...size }) => ({ ...size, data: data.slice().reverse() }))
    measured(upside).frames.forEach(({ focus_mm }, k) => expect(Math.abs((focus_mm ?? NaN) - OFFSETS_mm[k])).toBeLessThan(0.1 * SLICE_mm))
    const askew = measured(lights({ tilt_deg: 38, turned_deg: 5, rolled_deg: -4, print_mm: 0.08 }))
    expect(askew.tilt_deg).toBeCloseTo(38, 0)
    askew.frames.forEach(({ focus_mm }, k) => expect(Math.abs((focus_mm ?? NaN) - OFFSETS_mm[k])).toBeLessThan(0.15 * SLICE_mm))
  })

  test('a frame that does not show it is named without figures, and the others are measured all the same', () => {
    const empty = createPlane(900, 600)
    empty.data.fill(0.4)
    const { frames } = measured([straight[0], empty, straight[2]])
    expect(frames[1]).toEqual({ file: 'f1', focus_mm: null, depthOfField_mm: null })
    expect(frames[0].focus_mm).not.toBeNull()
  })

  test('how much nearer the edges are focused than the middle is told, with the sheet straight or askew', () => {
    const flat = measured(straight).fieldCurvature!
    expect(Math.abs(flat.nearer_mm)).toBeLessThan(0.1 * SLICE_mm)
    // The picture shows 18 mm to each side: 1.8 times as far as where the bowl is told.
    const truly_mm = 0.5 * 1.8 ** 2
    for (const [sheet, sign] of [
      [{ curved_mm: 0.5 }, 1],
      [{ curved_mm: -0.5, turned_deg: 4, rolled_deg: -3 }, -1],
    ] as const) {
      const { nearer_mm, spread_mm } = measured(lights(sheet)).fieldCurvature!
      expect(Math.abs(nearer_mm - sign * truly_mm)).toBeLessThan(2 * spread_mm)
      expect(spread_mm).toBeLessThan(0.25 * truly_mm)
    }
  })

  test('the aperture at which the plane of focus is sharpest is found', () => {
    // Wide open this lens is soft by its own faults, at f/16 by diffraction: pixels of 6 µm show both.
    const fine = (fNumber: number) => lights({ pitch_mm: 0.2, print_mm: 0.004 }, { sensorWidth_mm: 5.4, fNumber, spherical_mm: 0.6 })[1]
    const apertures = { f0: 2.8, f1: 5.6, f2: 16 }
    expect(measured(Object.values(apertures).map(fine), { pitch_mm: 0.2, apertures }).sharpest).toBe(5.6)
  })
})

test.each([
  ['nothing', () => Array.from({ length: 3 }, () => createPlane(900, 600))],
  ['something else', () => lights({}, {}, 'bristles')],
])('from frames of %s no figure is made up', (_, make) => {
  expect(refusedWith(() => measured(make()))).toBe('target.notSeen')
})
