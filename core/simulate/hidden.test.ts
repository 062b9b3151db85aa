import { IDENTITY } from '../raster'
import { viewAt, type CameraSetup } from './camera'
import { exposeLens } from './exposeLens'
import { Hidden, marginOf } from './hidden'
import { sampleScene } from './sampled'
import type { SampledLayer, SampledScene } from './sampledScene'
import { SCENES } from './scenes'

const ring: CameraSetup = { sensorWidth_mm: 36, width_px: 360, height_px: 240, focalLength_mm: 24, fNumber: 8, magnification: 0.018, mover: 'ring' }

/** A surface of 40 × 30 samples that stops light where `opaque` says so. */
function surface(opaque: (u: number, v: number) => boolean, more: Partial<SampledLayer> = {}): SampledLayer {
  const [width, height] = [40, 30]
  const colour = new Float32Array(width * height * 4)
  for (let v = 0, i = 3; v < height; v++) for (let u = 0; u < width; u++, i += 4) colour[i] = opaque(u, v) ? 1 : 0.99
  return {
    ...{ backdrop: false, width, height, left: 0, top: 0, colour, inverse: new Float32Array(width * height), inverseRange: [1, 1] },
    ...{ spans: new Int32Array(2 * height), sway_px: 0, moving: false },
    ...more,
  }
}

const placesOf = (hidden: Hidden) => {
  const places: [number, number][] = []
  for (let v = 0; v < 30; v++) for (let u = 0; u < 40; u++) if (hidden.at(u, v)) places.push([u, v])
  return places
}

describe('what a surface hides', () => {
  const extent = { left: 0, right: 40, top: 0, bottom: 30 }

  test('is everything where it fills the picture', () => {
    const hidden = new Hidden(extent)
    hidden.add(
      surface(() => true),
      9,
    )
    expect(placesOf(hidden)).toHaveLength(1200)
  })

  test('keeps its distance from a gap in it', () => {
    const hidden = new Hidden(extent)
    const [gapU, gapV] = [3, 3]
    hidden.add(
      surface((u, v) => u !== gapU || v !== gapV),
      9,
    )
    const places = placesOf(hidden)
    expect(places.length).toBeGreaterThan(100)
    expect(Math.min(...places.map(([u, v]) => Math.max(Math.abs(u - gapU), Math.abs(v - gapV))))).toBeGreaterThan(9)
  })

  test('is nothing for one that sways or runs, or ends inside the picture', () => {
    for (const layer of [surface(() => true, { sway_px: 1 }), surface(() => true, { moving: true })]) {
      const hidden = new Hidden(extent)
      hidden.add(layer, 1)
      expect(placesOf(hidden)).toEqual([])
    }
    const wide = new Hidden({ left: -200, right: 240, top: -200, bottom: 230 })
    wide.add(
      surface(() => true),
      20,
    )
    expect(placesOf(wide)).toEqual([])
  })
})

test('the margin grows with the aperture until what the lens may be opened to, and with the wind', () => {
  const view = (fNumber: number) => viewAt({ ...ring, fNumber }, 0, 0, IDENTITY)
  const margin = (fNumber: number, sway_px = 0) => marginOf({ ...ring, fNumber }, view(fNumber), 500, sway_px, 1)
  expect(margin(8)).toBeCloseTo(margin(2.8), 6)
  expect(margin(1.4)).toBeGreaterThan(1.9 * (margin(2.8) - 2))
  expect(margin(8, 5)).toBeCloseTo(margin(8) + 10, 6)
})

describe('a garden of which only what may show is sampled', () => {
  const reference = viewAt(ring, 783, 783, IDENTITY)
  const scene = SCENES.garden(3)
  let lean: SampledScene
  let whole: SampledScene
  beforeAll(() => {
    lean = sampleScene(scene, ring, reference)
    whole = sampleScene(scene, ring, reference, { fromOnePlace: false })
  })

  test('has a sixth less to sample at the least', () => {
    const differs = (k: number) => lean.layers[k].colour.reduce((n, value, i) => n + (i % 4 === 1 && value !== whole.layers[k].colour[i] ? 1 : 0), 0)
    const samples = whole.layers.reduce((sum, { colour }) => sum + colour.reduce((n, value, i) => n + (i % 4 === 3 && value > 0 ? 1 : 0), 0), 0)
    expect(lean.layers.reduce((sum, _, k) => sum + differs(k), 0)).toBeGreaterThan(samples / 6)
  })

  test.each([
    [-20, 2.8],
    [77, 2.8],
    [783, 2.8],
    [50_000, 2.8],
    [77, 8],
  ])('gives the same picture focused at %d mm at f/%d, bumped and in the wind', (focus_mm, fNumber) => {
    const setup = { ...ring, fNumber }
    const view = viewAt(setup, focus_mm, 783, { scale: 1, rotation_rad: 0.004, dx_px: 9, dy_px: -7 })
    const drift = (k: number): [number, number] => [lean.layers[k].sway_px, -lean.layers[k].sway_px / 2]
    const [a, b] = [lean, whole].map((sampled) => exposeLens(sampled, setup, view, { drift }).planes)
    const apart = a.flatMap(({ data }, c) => Array.from(data, (value, i) => Math.abs(value - b[c].data[i])))
    // In some grooves a surface lets a hundredth of the light through where its discs are laid coarsely; it is other light then.
    expect(apart.filter((value) => value > 2e-4).length / apart.length).toBeLessThan(0.015)
    expect(Math.sqrt(apart.reduce((sum, value) => sum + value * value, 0) / apart.length)).toBeLessThan(1e-3)
  })
})
