import { createPlane, IDENTITY, type Plane } from '../raster'
import { gaussian, randomStream } from '../simulate'
import type { FrameFacts } from './frameFacts'
import { PARTS, unsharpParts, type Sharpness } from './unsharp'

/** Detail of a subject that leans: its depth, in steps, goes from left to right; noise lies over it. */
interface Subject {
  from: number
  to: number
  /** How much blur a step makes. */
  blur_px: number
  /** Of light, frame by frame. */
  flicker?: number[]
  /** Rows below this show nothing. */
  textured?: number
}

const [WIDTH, HEIGHT] = [640, 432]
const NOISE = 2e-6

/** Bessel's function of the first kind and first order, by its integral. */
function bessel1(x: number): number {
  const steps = 64
  return Array.from({ length: steps }, (_, k) => ((k + 0.5) * Math.PI) / steps).reduce((sum, t) => sum + Math.cos(t - x * Math.sin(t)), 0) / steps
}

/**
 * Energy that a disc of blur leaves of a natural texture (contrast falls as one over frequency) in a band that ends at `finest`,
 * in radians a px: reckoned from the disc, another law than the fitted one.
 */
function seen(blur_px: number, finest: number): number {
  const waves = Array.from({ length: 24 }, (_, k) => (k + 1) / 24)
  const left = waves.map((part) => {
    const x = (part * finest * blur_px) / 2
    return part ** 3 * (x < 1e-6 ? 1 : ((2 * bessel1(x)) / x) ** 2)
  })
  return (1e-3 * left.reduce((sum, value) => sum + value, 0)) / waves.reduce((sum, part) => sum + part ** 3, 0)
}

function framesOf(places: number[], { from, to, blur_px, flicker, textured = 1 }: Subject): FrameFacts[] {
  const random = randomStream(3)
  return places.map((place, k) => {
    const light = flicker?.[k] ?? 1
    const band = (wave: number): Plane => {
      const plane = createPlane(WIDTH / 8, HEIGHT / 8)
      const columns = Array.from({ length: plane.width }, (_, x) =>
        seen(Math.abs(place - from - ((x + 0.5) / plane.width) * (to - from)) * blur_px, wave),
      )
      plane.data.forEach((_, i) => {
        const shows = Math.floor(i / plane.width) < textured * plane.height
        plane.data[i] = ((shows ? columns[i % plane.width] : 0) + NOISE) * (1 + 0.04 * gaussian(random))
      })
      return plane
    }
    return {
      luma: { width: WIDTH, height: HEIGHT, data: new Float32Array(0) },
      means: [light, light, light],
      clipped: 0,
      black: 0,
      sharpness: new Float64Array(0),
      detail: { fine: band(0.9), coarse: band(0.45) },
      motif: createPlane(1, 1),
    } as FrameFacts
  })
}

const even = (count: number, step = 1) => Array.from({ length: count }, (_, k) => k * step)
const measured = (places: number[], subject: Subject) =>
  unsharpParts(
    framesOf(places, subject),
    places,
    places.map(() => IDENTITY),
  )
const percent = (parts: Sharpness[], where: Sharpness) => (100 * parts.filter((part) => part === where).length) / parts.length

describe('parts that no frame shows sharp', () => {
  test('a subject within the series has none', () => {
    const { parts, beyond } = measured(even(12), { from: 0.5, to: 10.5, blur_px: 1.4 })
    expect(percent(parts, 'sharp')).toBe(100)
    expect(beyond).toEqual({ near: 0, far: 0 })
  })

  test.each([
    ['far', 1, 19],
    ['near', -8, 10],
  ] as const)('what lies beyond the %s end is found with its share, the farthest part included', (end, from, to) => {
    const { parts, beyond } = measured(even(12), { from, to, blur_px: 1.4 })
    // From 2 px of blur on, which is 1.4 steps beyond.
    expect(Math.abs(percent(parts, end) - (100 * (8 - 2 / 1.4)) / 18)).toBeLessThan(6)
    expect(percent(parts, end === 'far' ? 'near' : 'far')).toBe(0)
    expect(parts[end === 'far' ? PARTS.across - 1 : 0]).toBe(end)
    expect(beyond[end]).toBeGreaterThanOrEqual(4)
    expect(beyond[end]).toBeLessThanOrEqual(9)
  })

  test('parts that show nothing are not among them', () => {
    const { parts } = measured(even(12), { from: 1, to: 19, blur_px: 1.4, textured: 0.5 })
    expect(parts.slice((PARTS.across * PARTS.down * 5) / 8).every((part) => part === 'sharp')).toBe(true)
  })

  test('how much blur a step makes is measured, and doubles where every second frame is left out', () => {
    const subject = { from: 0.5, to: 10.5, blur_px: 1.4 }
    const whole = measured(even(12), subject).blurPerStep_px!
    const half = measured(even(6, 2), subject).blurPerStep_px!
    expect(Math.abs(whole / 1.4 - 1)).toBeLessThan(0.35)
    // Places are in usual steps of the whole: blur a step stays, and with it what lies between the frames shows.
    expect(Math.abs(half / whole - 1)).toBeLessThan(0.25)
    expect(percent(measured(even(6, 2.5), { ...subject, to: 12 }).parts, 'between')).toBeGreaterThan(10)
    expect(percent(measured(even(12), subject).parts, 'between')).toBe(0)
  })

  test('of a long series some frames are looked at, but blur counts between all of them', () => {
    const { parts, blurPerStep_px } = measured(even(90), { from: 2, to: 120, blur_px: 0.4 })
    expect(Math.abs(percent(parts, 'far') - (100 * (120 - 89 - 2 / 0.4)) / 118)).toBeLessThan(10)
    expect(percent(parts, 'between')).toBe(0)
    expect(blurPerStep_px).toBeGreaterThan(0.25)
  })
})
