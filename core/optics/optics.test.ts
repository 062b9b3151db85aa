import * as optics from '.'
const { closing_mm, magnificationFromSensor, sensorDistance_mm, settableShutter_s } = optics

/** Equal to four significant figures. */
function expect4(actual: number, expected: number) {
  expect(actual.toPrecision(4)).toBe(expected.toPrecision(4))
}

function closeDepth(fNumber: number, m: number, P: number, c: number, diffraction: boolean) {
  const Nw = optics.workingFNumber(fNumber, m, P)
  if (!diffraction) return optics.geometricDepth_mm(c, Nw, m)
  const b = optics.defocusAllowance_mm(c, optics.diffractionBlur_mm(Nw))
  return Math.max(optics.geometricDepth_mm(b, Nw, m), optics.waveDepth_mm(optics.numericalAperture(m, Nw)))
}

describe('depth of field close up', () => {
  test.each([
    [8, 1, 1, 0.03, 0.96, 0.89642],
    [5.6, 2, 1, 0.01, 0.084, 0.15523],
    [8, 0.5, 0.6, 0.0075, 0.88, 1.89298],
  ])('N %d, m %d, P %d, c %d', (N, m, P, c, classical, withDiffraction) => {
    expect4(closeDepth(N, m, P, c, false), classical)
    expect4(closeDepth(N, m, P, c, true), withDiffraction)
  })

  test('working aperture at 1:1 is twice the marked one, and loses two stops', () => {
    expect4(optics.workingFNumber(8, 1), 16)
    expect4(optics.extensionLoss_stops(1), 2)
    expect4(optics.markedFNumber(16, 1), 8)
  })

  test('no allowance is left where diffraction alone exceeds the criterion', () => {
    expect(optics.defocusAllowance_mm(0.01, 0.0113)).toBe(0)
  })

  test('an objective adds its geometric part to the wave part', () => {
    expect4(optics.objectiveDepth_mm(0.25, 10, 0.01), 0.00055 / 0.0625 + 0.01 / 2.5)
    expect4(optics.objectiveMagnification(10, 100, 200), 5)
  })

  test('defocus at the edge of the depth of field is the allowance', () => {
    const D = optics.geometricDepth_mm(0.02, 16, 2)
    expect4(optics.defocusBlur_mm(D / 2, 2, 16), 0.02)
    expect4(optics.totalBlur_mm(0.03, 0.04), 0.05)
  })
})

describe('depth of field at a distance', () => {
  const f = 24
  const H = optics.hyperfocal_mm(f, 8, 0.03)

  test('hyperfocal, near and far limit', () => {
    expect4(H, 2424)
    expect4(optics.nearLimit_mm(1000, H, f), 710.9)
    expect4(optics.farLimit_mm(1000, H, f), 1685.39)
    expect(optics.farLimit_mm(H, H, f)).toBe(Infinity)
  })

  test('near and far limit are inverted by the focus that gives them', () => {
    expect4(optics.focusForNear_mm(optics.nearLimit_mm(900, H, f), H, f), 900)
    expect4(optics.focusForFar_mm(optics.farLimit_mm(900, H, f), H, f), 900)
    expect(optics.focusForFar_mm(Infinity, H, f)).toBe(H)
    expect4(optics.nearLimit_mm(Infinity, H, f), H - f)
  })

  test('sensor distances turn into lens distances and back', () => {
    expect4(optics.fromSensor_mm(optics.scaleDistance_mm(500, 50), 50), 500)
    expect(optics.fromSensor_mm(199, 50)).toBeNaN()
    expect(optics.scaleDistance_mm(Infinity, 50)).toBe(Infinity)
  })
})

describe('criterion, magnification, exposure', () => {
  test('allowed blur from pixels and from a print', () => {
    expect4(optics.cocFromPixels_mm(2, 36, 6000), 0.012)
    expect4(optics.cocFromPrint_mm(600, 500, 36), (500 * Math.tan(Math.PI / 10800)) / (600 / 36))
  })

  test('ways to magnification', () => {
    expect4(optics.magnificationWithExtension(0.2, 40, 50), 1)
    expect4(optics.magnificationWithCloseUp(200, 100), 2)
    expect4(optics.magnificationReversed(46, 54, 50), 2)
    expect4(optics.magnificationFaceToFace(200, 50), 4)
    expect4(optics.magnificationFromRuler(36, 18), 2)
    expect4(optics.subjectDistance_mm(100, 1), 200)
    expect4(optics.imageDistance_mm(100, 200), 200)
    expect4(optics.magnificationAt(100, 200), 1)
  })

  test('one thirteenth of a second behind six stops', () => {
    expect4(optics.filteredExposure_s(1 / 13, 6), 4.923)
  })

  test('third stops keep to what the lens has', () => {
    expect(optics.thirdStops(2.8, 5.6)).toEqual([2.8, 3.2, 3.5, 4, 4.5, 5, 5.6])
  })
})

describe('a lens that differs from a thin one', () => {
  const closing = closing_mm(100, 309, 1)
  test('focuses at life size where the kit says, and as a thin lens far away', () => {
    expect(sensorDistance_mm(100, 1, closing)).toBeCloseTo(309, 9)
    expect(sensorDistance_mm(100, 0.01, closing)).toBeCloseTo(sensorDistance_mm(100, 0.01) - 0.91, 9)
  })

  test.each([0.01, 0.1, 0.5, 1])('its distance at %d : 1 gives that magnification back', (magnification) =>
    expect(magnificationFromSensor(100, sensorDistance_mm(100, magnification, closing), closing)).toBeCloseTo(magnification, 9),
  )

  test('a thin lens is the same by itself, and one that only shifts its focus has no square', () => {
    expect(magnificationFromSensor(50, sensorDistance_mm(50, 0.25))).toBeCloseTo(0.25, 9)
    expect(magnificationFromSensor(50, 300, -50)).toBeCloseTo(50 / 200, 9)
  })

  test('nearer than anything can be in focus there is no magnification', () => expect(magnificationFromSensor(100, 250)).toBeNaN())
})

describe('shutter speeds that can be set', () => {
  test.each([
    [4.923, 3, 5],
    [1 / 13, 3, 1 / 13],
    [0.11, 3, 1 / 10],
    [0.11, 2, 1 / 10],
    [0.11, 1, 1 / 8],
    [0.7, 1, 1 / 2],
    [0.72, 1, 1],
    [63.6, 3, 64],
    [1 / 20_000, 3, 1 / 20_000],
  ])('%d s with %d to a stop is %d s', (exposure_s, perStop, set_s) => expect(settableShutter_s(exposure_s, perStop)).toBeCloseTo(set_s, 9))

  test('is never more than half a step away', () => {
    for (const perStop of [1, 2, 3])
      for (let stops = -12; stops < 4.9; stops += 0.07) {
        const away = Math.abs(Math.log2(settableShutter_s(2 ** stops, perStop) / 2 ** stops))
        // Dials round their figures: 1/15 stands for 1/16, 1/6 for 1/5.66.
        expect(away).toBeLessThan(0.5 / perStop + 0.12)
      }
  })
})
