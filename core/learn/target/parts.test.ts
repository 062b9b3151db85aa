import * as fc from 'fast-check'
import { discPasses } from '../disc'
import { fitFocus, type Line } from './fit'
import { homographyOf, place, placeBehind, type Homography } from './homography'
import { behind, poseOf } from './pose'
import { BARS, BARS_u, CODE, EDGE_u, inkUntil, LADDER_u, LARGE_dot, ROWS } from './sheet'

describe('the sheet', () => {
  test('any six sizes in a row stand in one place of the code', () => {
    const words = Array.from({ length: ROWS - 5 }, (_, k) => CODE.slice(k, k + 6).join())
    expect(new Set(words).size).toBe(words.length)
  })

  test('bars lie between the ladders, apart from one another, and dots on the paper', () => {
    BARS.forEach(([from, to], k) => {
      expect(to).toBeGreaterThan(from)
      expect(from).toBeGreaterThan(k === 0 ? -BARS_u : BARS[k - 1][1])
      expect(to).toBeLessThan(BARS_u)
    })
    expect(LADDER_u - LARGE_dot).toBeGreaterThan(BARS_u + 1)
    expect(LADDER_u + LARGE_dot).toBeLessThan(EDGE_u)
  })

  test('ink adds up to all bars', () => {
    expect(inkUntil(-BARS_u)).toBe(0)
    expect(inkUntil(EDGE_u)).toBeCloseTo(
      BARS.reduce((sum, [from, to]) => sum + to - from, 0),
      9,
    )
    const [from, to] = BARS[3]
    expect(inkUntil((from + to) / 2) - inkUntil(from)).toBeCloseTo((to - from) / 2, 9)
  })
})

/** A sheet before a camera: tilted about a line across, turned in its plane, rolled about the axis; lengths in pitches and px. */
function seen(tilt: number, turned: number, rolled: number, { distance = 200, image_px = 7000, width = 1200, height = 800 } = {}): Homography {
  const [ct, st, cu, su, cr, sr] = [tilt, turned, rolled].flatMap((angle) => [Math.cos(angle), Math.sin(angle)])
  const pairs = [-14, 0, 14].flatMap((u) =>
    [-20, 0, 20].map((s) => {
      const [across, along] = [cu * u - su * s, su * u + cu * s]
      const [x, y, z] = [across, ct * along, distance - st * along]
      const [px, py] = [(image_px * x) / z, (image_px * y) / z]
      return { u, s, x: cr * px - sr * py + (width - 1) / 2, y: sr * px + cr * py + (height - 1) / 2 }
    }),
  )
  return homographyOf(pairs)!
}

const angle = (least: number, most: number) => fc.double({ min: (least * Math.PI) / 180, max: (most * Math.PI) / 180, noNaN: true })

describe('where the sheet lies', () => {
  test('a homography brings places to where they were seen, and back', () => {
    fc.assert(
      fc.property(angle(20, 65), angle(-6, 6), angle(-6, 6), fc.double({ min: -14, max: 14, noNaN: true }), (tilt, turned, rolled, u) => {
        const homography = seen(tilt, turned, rolled)
        const [x, y] = place(homography, u, 7)
        const [back, along] = placeBehind(homography, x, y)
        expect(back).toBeCloseTo(u, 6)
        expect(along).toBeCloseTo(7, 6)
      }),
    )
    expect(homographyOf([])).toBeUndefined()
  })

  test('its tilt and the way it falls are told without knowing the lens, however it is turned and rolled', () => {
    fc.assert(
      fc.property(angle(25, 65), angle(-6, 6), angle(-6, 6), fc.constantFrom(3000, 7000, 30_000), (tilt, turned, rolled, image_px) => {
        const pose = poseOf(seen(tilt, turned, rolled, { image_px, distance: image_px / 35 }), 1200, 800)!
        expect(pose.tilt_rad).toBeCloseTo(tilt, 4)
        // It falls away upwards: what lies a pitch further up lies sin(tilt) farther away.
        const up: [number, number] = [-Math.sin(turned), -Math.cos(turned)]
        expect(behind(pose, up)).toBeCloseTo(Math.sin(tilt), 3)
        expect(pose.pitch_px).toBeCloseTo(35, 1)
      }),
    )
  })

  test('of a sheet that lies parallel to the sensor no slant is told', () => {
    expect(poseOf(seen(0.05, 0, 0), 1200, 800)).toBeUndefined()
  })
})

describe('how blur grows', () => {
  test('a disc passes waves as the sum over its area says', () => {
    for (const x of [0, 0.3, 1, 2, 2.9, 3.1, 3.83, 5, 8]) {
      // Over the disc of diameter 1, of waves with π k = x.
      const steps = 4000
      let sum = 0
      for (let k = 0; k < steps; k++) {
        const at = (k + 0.5) / steps - 0.5
        sum += Math.sqrt(0.25 - at * at) * Math.cos(2 * x * at)
      }
      expect(discPasses(x)).toBeCloseTo((sum * 2) / steps / (Math.PI / 4), 5)
    }
  })

  const waves = [0.4, 0.8, 1.3, 1.9, 2.6, 3.4]
  const lines = (focus: number, widening: number, noise = (_: number) => 0): Line[] =>
    Array.from({ length: 240 }, (_, k) => {
      const depth = -8 + k / 15
      const strengths = waves.map((cycles, w) => (1 / (1 + w)) * discPasses(Math.PI * widening * Math.abs(depth - focus) * cycles) + noise(k * 7 + w))
      return { depth, strengths: Float64Array.from(strengths) }
    })

  test('plane of focus and widening come out as they were put in', () => {
    fc.assert(
      fc.property(fc.double({ min: -5, max: 5, noNaN: true }), fc.double({ min: 0.05, max: 0.4, noNaN: true }), (focus, widening) => {
        const fit = fitFocus(lines(focus, widening), waves)!
        // Off by so little that the blur there is a hundredth of what is allowed.
        expect(Math.abs(fit.focus - focus) * widening).toBeLessThan(0.003)
        expect(Math.abs(fit.widening / widening - 1)).toBeLessThan(0.01)
        expect(fit.left).toBeLessThan(0.001)
        fit.sharpest.forEach((strength, w) => expect(strength).toBeCloseTo(1 / (1 + w), 2))
      }),
      { numRuns: 20 },
    )
  })

  test('noise moves them little; too few lines tell nothing', () => {
    const noisy = fitFocus(
      lines(1.2, 0.2, (k) => 0.05 * Math.sin(k * k)),
      waves,
    )!
    expect(noisy.focus).toBeCloseTo(1.2, 1)
    expect(Math.abs(noisy.widening / 0.2 - 1)).toBeLessThan(0.05)
    expect(fitFocus(lines(0, 0.2).slice(0, 4), waves)).toBeUndefined()
  })
})
