import { BARS, CODE, EDGE_u, LADDER_u, rowAt } from '../learn/target'
import { USUAL_SHEET, type SheetSetup } from '.'
import type { Scene } from './scene'
import { targetScene } from './scenes/target'

const TEXEL_mm = 0.01
const BAR = BARS[4]

const scenes = new Map<string, Scene>()

/** What the scene shows at a place of the picture, mm from its middle. */
function seen(setup: Partial<SheetSetup>, x: number, y: number, texel_mm = TEXEL_mm) {
  const sight = { z: 0, red: 0, green: 0, blue: 0, alpha: 0 }
  const key = JSON.stringify(setup)
  const scene = scenes.get(key) ?? targetScene({ ...USUAL_SHEET, print_mm: 0, ...setup })
  scenes.set(key, scene)
  const [layer] = scene.layers
  expect(layer.see(x, y, texel_mm, sight)).toBe(true)
  expect(sight.z).toBeCloseTo(layer.depthAt(x, y), 9)
  return { light: sight.green, z: sight.z - scene.depth_mm / 2 }
}

/** Of a sheet that is tilted by 60° a pitch along the slant is half of one in the picture. */
const steep = { tilt_deg: 60 }
const at = (u: number, s: number) => [u, s / 2] as const

describe('the printed sheet before the simulated camera', () => {
  const paper = seen(steep, ...at(BARS[0][0] - 1, 0.5)).light

  test('has ink where dots and bars are printed, paper between them, and lies on a darker table', () => {
    for (const s of [-12.3, 0.5, 9.1]) expect(seen(steep, ...at((BAR[0] + BAR[1]) / 2, s)).light).toBeLessThan(0.12 * paper)
    for (const [row, large] of CODE.entries()) {
      const off = 0.23
      // Between the radii of the two dots it is ink for large ones only.
      expect(seen(steep, ...at(LADDER_u + off, rowAt(row))).light < 0.5 * paper).toBe(large)
      expect(seen(steep, ...at(-LADDER_u, rowAt(row))).light).toBeLessThan(0.12 * paper)
      expect(seen(steep, ...at(-LADDER_u, rowAt(row) + 0.5)).light).toBeCloseTo(paper, 2)
    }
    const table = seen(steep, ...at(EDGE_u + 1, 0)).light
    expect(table).toBeLessThan(0.5 * paper)
    expect(table).toBeGreaterThan(0.1 * paper)
  })

  test('falls away upwards by its tilt, and to a side when it is rolled', () => {
    expect(seen(steep, 3, 0).z).toBeCloseTo(0, 9)
    expect(seen(steep, 0, -2).z).toBeCloseTo(2 * Math.tan(Math.PI / 3), 9)
    const rolled = { ...steep, rolled_deg: 90 }
    expect(seen(rolled, -2, 5).z).toBeCloseTo(2 * Math.tan(Math.PI / 3), 9)
  })

  test('turned within its plane, its bars lean while its depth does not', () => {
    const turned = { ...steep, turned_deg: 30 }
    expect(seen(turned, 4, -2).z).toBeCloseTo(seen(steep, -4, -2).z, 9)
    const [u, s] = [(BAR[0] + BAR[1]) / 2, 6]
    const [cos, sin] = [Math.cos(Math.PI / 6), Math.sin(Math.PI / 6)]
    expect(seen(turned, cos * u - sin * s, (sin * u + cos * s) / 2).light).toBeLessThan(0.12 * paper)
  })

  test('what is smaller than a texel is mixed evenly: the mean over all bars is that of their ink', () => {
    const fine = Array.from({ length: 4000 }, (_, k) => seen(steep, -10 + k / 200, 0.25).light)
    const coarse = Array.from({ length: 40 }, (_, k) => seen(steep, -10 + (k + 0.5) / 2, 0.25, 0.5).light)
    const mean = (values: number[]) => values.reduce((sum, value) => sum + value, 0) / values.length
    expect(mean(coarse) / mean(fine)).toBeCloseTo(1, 2)
  })
})
