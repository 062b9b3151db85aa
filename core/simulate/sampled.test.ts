import { IDENTITY } from '../raster'
import { viewAt, type CameraSetup } from './camera'
import { finish, sampleMoment, sampleScene, sampling } from './sampled'
import { SCENES } from './scenes'
import type { Layer, Scene } from './scene'

const camera: CameraSetup = { sensorWidth_mm: 36, width_px: 120, height_px: 80, focalLength_mm: 60, fNumber: 4, magnification: 1, mover: 'ring' }
const view = viewAt(camera, 0, 0, IDENTITY)

/** A wall that fills the picture and a post before it that may sway or look different at every moment. */
function scene(more: Partial<Layer> = {}): Scene {
  const flat = (z: number, backdrop: boolean, half: number, tone: number): Layer => ({
    backdrop,
    bounds: { left: -half, right: half, top: -half, bottom: half, near: z, far: z },
    depthAt: () => z,
    see(x, y, _texel, sight) {
      if (Math.max(Math.abs(x), Math.abs(y)) > half) return false
      Object.assign(sight, { z, red: tone, green: tone / 2, blue: tone / 4, alpha: 1 })
      return true
    },
  })
  return { depth_mm: 20, layers: [flat(10, true, 100, 0.8), { ...flat(0, false, 3, 0.4), ...more }] }
}

describe('a sampled scene', () => {
  const [wall, post] = sampleScene(scene(), camera, view).layers

  test('holds a backdrop everywhere and another surface only where it is', () => {
    expect(wall.width).toBeGreaterThan(120 * 1.5)
    expect(wall.colour.every((value, i) => i % 4 !== 3 || value === 1)).toBe(true)
    // 6 mm at 1:1 are 20 pixels, sampled one and a half times as fine, both ends included.
    expect(post.width).toBeGreaterThanOrEqual(30)
    expect(post.width).toBeLessThan(38)
    expect(post.colour.filter((value, i) => i % 4 === 3 && value > 0)).toHaveLength(31 ** 2)
  })

  test('tells for each row where light is stopped', () => {
    const rows = Array.from({ length: post.height }, (_, row) => post.spans.slice(2 * row, 2 * row + 2))
    const filled = rows.filter(([first, behind]) => behind > first)
    expect(filled).toHaveLength(31)
    for (const [first, behind] of filled) expect(behind - first).toBe(31)
  })

  test('keeps one over the distance from the entrance pupil', () => {
    expect(post.inverseRange[0]).toBeCloseTo(1 / -view.pupilZ, 9)
    expect(wall.inverseRange[1]).toBeCloseTo(1 / (10 - view.pupilZ), 9)
  })

  test('in bits is the same as at once', () => {
    const work = sampling(SCENES.nib(2), camera, view)
    for (let k = 0; k < 3; k++) expect(work.next().done).toBe(false)
    const [bits, whole] = [finish(work), sampleScene(SCENES.nib(2), camera, view)]
    expect(bits.layers).toHaveLength(whole.layers.length)
    bits.layers.forEach(({ colour, inverse }, k) => {
      expect(colour).toEqual(whole.layers[k].colour)
      expect(inverse).toEqual(whole.layers[k].inverse)
    })
  })

  test('of a part of the picture leaves out what lies far outside of it', () => {
    const wide = { ...camera, width_px: 1200, height_px: 800 }
    const seen = viewAt(wide, 0, 0, IDENTITY)
    const corner = { x: 0, y: 0, width: 100, height: 100 }
    const [whole] = sampleScene(scene(), wide, seen).layers
    const part = sampleScene(scene(), wide, seen, { window: corner }).layers
    // The post stands in the middle, so the corner has nothing of it.
    expect(part).toHaveLength(1)
    expect(part[0].inverse.length).toBeLessThan(whole.inverse.length / 4)
    expect(part[0].left).toBe(whole.left)
    expect(part[0].top).toBe(whole.top)
  })

  test('at another moment shares what stands still', () => {
    const still = sampleScene(scene(), camera, view)
    expect(sampleMoment(still, scene(), 3)).toBe(still)
    const running = scene({ at: (moment) => scene({ sway_mm: 0, bounds: { ...scene().layers[1].bounds, right: 1 + moment } }).layers[1] })
    const sampled = sampleScene(running, camera, view)
    const later = sampleMoment(sampled, running, 1)
    expect(later.layers[0]).toBe(sampled.layers[0])
    expect(later.layers[1].width).toBeLessThan(sampled.layers[1].width)
    expect(later.layers[1].moving).toBe(true)
  })

  test('says in pixels how far wind carries a surface', () => {
    const swaying = sampleScene(scene({ sway_mm: 2 }), camera, view).layers[1]
    expect(swaying.sway_px).toBeCloseTo((2 * 120) / 36, 6)
    expect(post.sway_px).toBe(0)
  })
})
