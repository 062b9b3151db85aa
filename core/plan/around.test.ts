import {
  cautions,
  checklist,
  composing,
  criterionMeaning,
  directionAdvice,
  fitBudget,
  loadOf,
  planSeries,
  sameSize,
  seriesLight,
  serveTargets,
  stillness,
  tradeTable,
  type LensOptics,
} from '.'
import { landscape, macro } from './testRequests'

describe('targets in a landscape', () => {
  const plan = planSeries(landscape)
  const served = serveTargets(plan, landscape, [
    { name: 'trough', distance_mm: plan.frames[0].focusDistance_mm! },
    { name: 'gate', distance_mm: 6000 },
    { name: 'hill', distance_mm: Infinity },
    { name: 'leaf before the lens', distance_mm: 200 },
  ])

  test('each is served by the frame that blurs it least', () => {
    expect(served.map(({ frame }) => frame)).toEqual([1, plan.frameCount, plan.frameCount, 1])
    expect(served[0].blur_mm).toBeCloseTo(plan.diffraction_mm, 3)
  })

  test('what lies outside the plan is not called sharp', () => expect(served.map(({ sharp }) => sharp)).toEqual([true, true, true, false]))
  test('a plan by depth serves none', () => expect(serveTargets(planSeries(macro), macro, [{ name: 'x', distance_mm: 1 }])).toEqual([]))
})

describe('the trade between depth and size', () => {
  const subject = { width_mm: 120, depth_mm: 60 }

  test('at the same size all focal lengths hold the same depth', () => {
    const [row] = tradeTable(macro, subject, 1, [11], sameSize([35, 60, 100], 0.25)).rows
    for (const { depthOfField_mm, share_percent } of row.cells) {
      expect(depthOfField_mm).toBeCloseTo(row.cells[0].depthOfField_mm, 9)
      expect(share_percent).toBeCloseTo((100 * 120 * 0.25) / 36, 9)
    }
  })

  test('says why no row solves it, or what the solving one costs', () => {
    const distances = [400, 600, 1000].map((distance_mm) => ({ focalLength_mm: 100, distance_mm }))
    expect(tradeTable(macro, subject, 1, [2.8, 4], distances).reason.code).toBe('trade.none')
    expect(tradeTable(macro, { width_mm: 20, depth_mm: 0.5 }, 1, [11], [distances[0]]).reason.code).toBe('trade.oneFrame')
    expect(tradeTable(macro, subject, 1, [4, 16], [...distances, { focalLength_mm: 100, distance_mm: 2500 }]).reason.code).toBe('trade.smaller')
  })

  test('leaves out distances within the lens', () =>
    expect(tradeTable(macro, subject, 1, [8], [{ focalLength_mm: 100, distance_mm: 90 }]).rows[0].cells).toEqual([]))
})

describe('the plan the other way round', () => {
  const present = planSeries(macro)

  test('says that it fits when it does', () => expect(fitBudget(macro, { frames: 30 })).toMatchObject({ fits: true, ways: [] }))

  test.each([18, 12, 8])('every way to %d frames is a full plan within them', (frames) => {
    const { ways, fits } = fitBudget(macro, { frames }, { smallestFNumber: 32 })
    expect(fits).toBe(false)
    expect(ways.map(({ change }) => change)).toContain('criterion')
    for (const { request, plan, givenUp } of ways) {
      expect(plan.frameCount).toBeLessThanOrEqual(frames)
      expect(planSeries(request).frameCount).toBe(plan.frameCount)
      expect(givenUp.length).toBeGreaterThan(10)
    }
  })

  test('a little less overlap is enough for a frame or two, and no more is given up than needed', () => {
    const overlap = fitBudget(macro, { frames: present.frameCount - 2 }).ways.find(({ change }) => change === 'overlap')!
    expect(overlap.request.overlap).toBeLessThan(0.3)
    expect(planSeries({ ...macro, overlap: overlap.request.overlap + 0.01 }).frameCount).toBeGreaterThan(present.frameCount - 2)
  })

  test('minutes are turned into frames', () => {
    const timed = { ...macro, timing: { ...macro.timing, settle_s: 10 } }
    expect(fitBudget(timed, { duration_s: 120 })).toMatchObject({ most: 12, fits: false })
    expect(() => fitBudget(timed, { duration_s: 5 })).toThrow(expect.objectContaining({ code: 'plan.frameTime' }))
  })

  test('one frame that cannot be is said', () =>
    expect(fitBudget({ ...macro, subject: { kind: 'depth', depth_mm: 300 } }, { frames: 1 }).said.code).toBe('budget.none'))
})

describe('time, card and batteries', () => {
  const request = {
    ...macro,
    timing: { move_s: 3, filter_s: 20, settle_s: 2, delay_s: 1, exposure_s: 0.5, exposuresPerFrame: 4, interval_s: 3, recycling_s: 1.5, write_s: 1 },
  }
  const plan = planSeries(request)

  test('a frame takes moving, the filter, settling, delay, exposures, the longer of interval and recycling, and writing', () => {
    expect(loadOf(plan, request, {}).perFrame_s).toBe(3 + 20 + 2 + 1 + 0.5 * 4 + 1.5 * 4 + 1)
    expect(plan.duration_s).toBeCloseTo(plan.frameCount * 35, 9)
  })

  test('sensor-shift captures multiply storage and pops', () => {
    const load = loadOf(plan, request, { popsPerCharge: 60 })
    expect(load.exposures).toBe(84)
    expect(load.pops).toBe(84)
    expect(load.storage_GB).toBeCloseTo((84 * 45) / 1000, 9)
  })

  test('what is too small is said with what to do', () => {
    const { verdicts } = loadOf(plan, request, { card_GB: 2, framesPerCharge: 50, popsPerCharge: 500 })
    expect(verdicts.map(({ fits }) => fits)).toEqual([false, false, true])
    expect(verdicts[0].text).toContain('larger card')
    expect(verdicts[1].text).toContain('3 batteries')
  })
})

describe('light', () => {
  const lens = { fNumber: 8, magnification: 1, pupilRatio: 1 }
  const none = { testExposure_s: 1 / 13, filter_stops: 0, polariser_stops: 0, handMetered: false, headroom_stops: 0 }

  test('1/13 s behind six stops is 4.923 s', () => expect(seriesLight({ ...none, filter_stops: 6 }, lens).exposure_s).toBeCloseTo(4.923, 3))
  test('extension counts for a hand meter only', () => {
    expect(seriesLight(none, lens).exposure_s).toBeCloseTo(1 / 13, 9)
    expect(seriesLight({ ...none, handMetered: true }, lens).exposure_s).toBeCloseTo(4 / 13, 9)
    expect(seriesLight({ ...none, handMetered: true }, { ...lens, attachment: true }).exposure_s).toBeCloseTo(1 / 13, 9)
  })
  test('headroom darkens; equivalents hold the same light', () => {
    const { exposure_s, equivalents } = seriesLight({ ...none, headroom_stops: 1 }, lens)
    expect(exposure_s).toBeCloseTo(1 / 26, 9)
    for (const { fNumber, exposure_s: time } of equivalents) expect(time / fNumber ** 2).toBeCloseTo(exposure_s / 64, 9)
  })

  test('how still the scene must hold', () => {
    const { mostSpeed_mmPerS, sun_deg, shadow_mm } = stillness(0.03, 0.5, 2, 240)
    expect(mostSpeed_mmPerS).toBeCloseTo(0.03, 9)
    expect(sun_deg).toBeCloseTo(1, 9)
    expect(shadow_mm).toBeCloseTo(1000 * (1 / Math.tan((44 * Math.PI) / 180) - 1), 6)
    expect(stillness(0.03, 0, 2, 240).mostSpeed_mmPerS).toBe(Infinity)
  })
})

describe('what the criterion means', () => {
  const { camera } = macro
  test.each([
    [{ kind: 'pixels', count: 2 } as const, 'Sharp at 100 %'],
    [{ kind: 'pixels', count: 4 } as const, 'Nearly sharp'],
    [{ kind: 'coc', coc_mm: 0.06 } as const, 'not at 100 %: the blur'],
  ])('%j', (sharpness, words) => expect(criterionMeaning(sharpness, camera)).toContain(words.split(':')[0]))

  test('a 60 cm print from half a metre is named as such', () =>
    expect(criterionMeaning({ kind: 'print', width_mm: 600, viewingDistance_mm: 500 }, camera)).toContain('up to 60 cm wide'))
})

describe('composing and direction', () => {
  test('at the far end of a rail, at the near end of a ring', () => {
    expect(composing(planSeries(macro), macro)).toMatchObject({ at: 'far' })
    const plan = planSeries(landscape)
    const { at, edge_px, edge_percent } = composing(plan, landscape)
    expect(at).toBe('near')
    expect(edge_px).toBe(Math.ceil((plan.edgeLoss_percent / 200) * 6000))
    expect(edge_percent).toBeCloseTo(plan.edgeLoss_percent / 2, 9)
  })

  test('gravity decides on a steep rail', () => {
    expect(directionAdvice(macro).favoured).toBe('near')
    expect(directionAdvice(macro, 'down').favoured).toBe('far')
    expect(directionAdvice(macro, 'up').favoured).toBe('near')
    expect(directionAdvice(landscape, 'down').favoured).toBe('far')
    expect(directionAdvice({ ...macro, mover: { kind: 'ring' } }).reason.code).toBe('direction.ring')
  })
})

describe('the run card', () => {
  const bench = { light: 'flash', surroundings: [], filter_stops: 0, frameCount: 21, byBody: false } as const

  test('its checklist fits the plan', () => {
    const macroLines = checklist(macro, { ...bench, surroundings: [] }).join('\n')
    expect(macroLines).toContain('Electronic shutter off')
    expect(macroLines).toContain('Rail moved from one side')
    const outside = checklist(landscape, { ...bench, light: 'daylight', filter_stops: 6, surroundings: [] }).join('\n')
    expect(outside).toContain('Filter off to focus')
    expect(outside).not.toContain('Rail')
  })

  test('cautions stand where they belong', () => {
    expect(cautions(landscape, { light: 'daylight', surroundings: ['water', 'height'] })).toHaveLength(2)
    expect(cautions(macro, { light: 'lamp', surroundings: [] }).join()).toContain('hot')
    expect(cautions(macro, { light: 'lamp', surroundings: ['water'] }).join()).toContain('Mains')
    expect(cautions(macro, { light: 'daylight', surroundings: [] })).toEqual([])
  })
})

test('a lens with an attachment is planned without extension', () => {
  const optics: LensOptics = { kind: 'lens', focalLength_mm: 100, fNumber: 8, pupilRatio: 1, magnification: 1, attachment: true }
  expect(planSeries({ ...macro, optics }).workingFNumber).toBe(8)
})
