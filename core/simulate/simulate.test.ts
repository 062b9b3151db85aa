import { defocusBlur_mm, geometricDepth_mm, workingFNumber } from '../optics'
import { cornerDistance_px, createPicture, IDENTITY } from '../raster'
import { WasmKernels, Workspace } from '../raster/kernels'
import { blur_px, diffraction_px, pixelsPer_mm, viewAt, type CameraSetup } from './camera'
import { exposeLens } from './exposeLens'
import { Levels } from './levels'
import { fractalNoise, gaussian, noise, normalQuantiles, randomStream } from './random'
import { sampleScene } from './sampled'
import type { Layer, Scene } from './scene'
import { develop, developSharp } from './sensor'
import { SCENES, SimulatedSeries, type SeriesRequest } from '.'

const camera: CameraSetup = { sensorWidth_mm: 36, width_px: 240, height_px: 160, focalLength_mm: 100, fNumber: 4, magnification: 1, mover: 'ring' }

const request: SeriesRequest = {
  scene: 'bristles',
  seed: 3,
  camera,
  positions_mm: [1, 4, 7],
  unsteadiness: { shift_px: 1, rotation_deg: 0.1, exposure_ev: 0.05 },
  fullWell: 30_000,
}

describe('random numbers', () => {
  test('are the same for the same seed and differ for another', () => {
    const take = (seed: number) => Array.from({ length: 5 }, randomStream(seed))
    expect(take(4)).toEqual(take(4))
    expect(take(4)).not.toEqual(take(5))
  })

  test('are even, and normal where asked', () => {
    const random = randomStream(1)
    const even = Array.from({ length: 20_000 }, random)
    expect(even.reduce((a, b) => a + b) / even.length).toBeCloseTo(0.5, 1)
    const normal = Array.from({ length: 20_000 }, () => gaussian(random))
    expect(normal.reduce((a, b) => a + b * b, 0) / normal.length).toBeCloseTo(1, 1)
  })

  test('quantiles are those of the normal distribution', () => {
    const quantiles = normalQuantiles()
    const share = (beyond: number) => quantiles.filter((value) => Math.abs(value) > beyond).length / quantiles.length
    expect(share(1)).toBeCloseTo(0.3173, 3)
    expect(share(2)).toBeCloseTo(0.0455, 3)
    expect(quantiles.reduce((a, b) => a + b * b, 0) / quantiles.length).toBeCloseTo(1, 2)
  })

  test('noise is smooth and stays within 0 … 1', () => {
    for (let k = 0; k < 400; k++) {
      const value = fractalNoise(k * 0.37, k * 0.11, 2, 4)
      expect(value).toBeGreaterThanOrEqual(0)
      expect(value).toBeLessThanOrEqual(1)
      expect(Math.abs(noise(k * 0.37, 1, 2) - noise(k * 0.37 + 1e-4, 1, 2))).toBeLessThan(1e-3)
    }
  })
})

describe('the camera', () => {
  const view = viewAt(camera, 5, 5, IDENTITY)

  test('blurs by the same optics as the plan: at the edge of the depth of field the blur is the allowed one', () => {
    const Nw = workingFNumber(camera.fNumber, 1)
    const D = geometricDepth_mm(0.03, Nw, 1)
    const pitch_mm = 36 / 240
    expect(blur_px(view, 5)).toBeCloseTo(0, 12)
    // The close-up formula leaves out the change of magnification over the slice: a few parts in a thousand.
    expect(Math.abs((blur_px(view, 5 + D / 2) * pitch_mm) / defocusBlur_mm(D / 2, 1, Nw) - 1)).toBeLessThan(0.01)
  })

  test('draws the plane of focus at the magnification asked for', () => {
    expect(pixelsPer_mm(view, 5)).toBeCloseTo(240 / 36, 9)
  })

  test('breathes with the ring and keeps its scale on a rail', () => {
    const ring = viewAt(camera, 8, 5, IDENTITY)
    const rail = viewAt({ ...camera, mover: 'rail' }, 8, 5, IDENTITY)
    expect(pixelsPer_mm(ring, 5)).toBeLessThan(pixelsPer_mm(view, 5))
    expect(pixelsPer_mm(rail, 8)).toBeCloseTo(pixelsPer_mm(view, 5), 9)
    expect(rail.pupilZ - view.pupilZ).toBeCloseTo(3, 9)
  })

  test('diffraction grows with the f-number', () => {
    expect(diffraction_px({ ...camera, fNumber: 8 }) / diffraction_px(camera)).toBeCloseTo(2, 9)
  })
})

describe('the disc', () => {
  const kernels = new WasmKernels()
  /** A point of light in the middle of a picture, spread over a disc: what lies where. */
  const blurredPoint = (radius: number, x = 20) => {
    const [width, height] = [41, 41]
    const space = new Workspace(kernels, 0)
    const levels = new Levels(space, { x: 0, y: 0, width, height }, 130)
    const [colour, inverse, columns] = [space.bytes(4 * 16), space.bytes(4 * 4), space.bytes(8)]
    new Float32Array(kernels.buffer(), colour, 16).set([0, 1, 2, 3].flatMap(() => [1, 0.5, 0.25, 1]))
    new Float32Array(kernels.buffer(), inverse, 4).fill(1)
    new Int32Array(kernels.buffer(), columns, 2).set([x, x + 1])
    levels.begin()
    // A surface of 2 × 2 samples, all the same, read half-way between them; so far out of focus that the radius is this.
    kernels.run(
      'projectLight',
      [colour, inverse, 2, 2, 0, 0, columns, 1, 0, 0, 0, 0.5, 0.5, 1, 0, 0, 1, radius, 2, 1, x, 20, levels.discs, levels.table],
      1,
    )
    levels.cover(false)
    const light = levels.picture().slice()
    return { at: (px: number, py: number, channel = 0) => light[4 * (py * width + px) + channel] }
  }
  const places = Array.from({ length: 41 * 41 }, (_, k) => [k % 41, Math.floor(k / 41)])

  test.each([0.7, 1, 2.3, 5.5, 12])('of radius %d keeps the light and reaches as far as its radius', (radius) => {
    const { at } = blurredPoint(radius)
    let [light, spread] = [0, 0]
    for (const [x, y] of places) {
      light += at(x, y)
      spread += at(x, y) * (x - 20) ** 2
    }
    expect(light).toBeCloseTo(1, 3)
    // The variance of an even disc along one axis is r²/4; a pixel adds 1/12, and a block of pixels its own size.
    const block = radius < 3 ? 1 : 2 ** Math.floor(Math.log2(radius / 1.5))
    expect(Math.abs(spread - (radius ** 2 / 4 + 1 / 12))).toBeLessThan(0.12 + 0.06 * radius + block ** 2 / 3)
  })

  test('is as high as wide, and channels keep their share', () => {
    const { at } = blurredPoint(2.5)
    expect(at(22, 20)).toBeCloseTo(at(20, 22), 2)
    expect(at(21, 21)).toBeCloseTo(at(20, 20), 6)
    expect(at(20, 24)).toBeCloseTo(0, 6)
    expect(at(22, 20, 1)).toBeCloseTo(at(22, 20) / 2, 6)
  })

  test.each([0, 1, 2, 40])('about column %d loses only the light that falls beside the picture', (x) => {
    const whole = blurredPoint(2.8)
    const cut = blurredPoint(2.8, x)
    for (const [px, py] of places) {
      const dx = px - x
      if (Math.abs(dx) <= 20) expect(cut.at(px, py)).toBeCloseTo(whole.at(20 + dx, py), 5)
    }
  })
})

/** An even layer at one depth, lit evenly; `inside` cuts its outline. */
function sheet(z: number, tone: (x: number) => number, backdrop: boolean, inside = (_x: number) => true): Layer {
  return {
    backdrop,
    bounds: { left: -40, right: 40, top: -40, bottom: 40, near: z, far: z + 1e-6 },
    depthAt: () => z,
    see(x, _y, _texel, sight) {
      if (!inside(x)) return false
      const value = tone(x)
      Object.assign(sight, { z, red: value, green: value, blue: value, alpha: 1 })
      return true
    },
  }
}

describe('light on the sensor', () => {
  const stripes = (x: number) => (Math.floor(x / 0.7) % 2 === 0 ? 0.2 : 0.9)
  const scene: Scene = {
    depth_mm: 8,
    layers: [
      sheet(8, stripes, true),
      sheet(
        0,
        () => 0,
        false,
        (x) => Math.abs(x) < 0.5,
      ),
    ],
  }
  const contrast = (row: Float32Array) => Math.max(...row) - Math.min(...row)
  const middleRow = (focusZ: number) => {
    const wide = { ...camera, fNumber: 2 }
    const view = viewAt(wide, focusZ, focusZ, IDENTITY)
    const light = exposeLens(sampleScene(scene, wide, view), wide, view)
    return light.planes[0].data.slice(80 * 240, 81 * 240)
  }

  test('a near bristle blurs over a sharp ground, which shows through it', () => {
    const far = middleRow(8)
    // The bristle is 7 px wide and black, its blur twice as wide: its middle lets light of the ground through.
    // Two fifths of the disc pass it, and a dark stripe (0.2) lies behind.
    expect(far[120] / 0.2).toBeGreaterThan(0.25)
    expect(far[120] / 0.2).toBeLessThan(0.5)
    expect(contrast(far.slice(10, 60))).toBeGreaterThan(0.6)
  })

  test('a ground out of focus loses its stripes while the bristle is black and sharp', () => {
    const near = middleRow(0)
    expect(near[120]).toBeLessThan(0.02)
    expect(contrast(near.slice(10, 60))).toBeLessThan(0.35)
  })

  test('light is neither made nor lost by blur', () => {
    const mean = (row: Float32Array) => row.slice(20, 80).reduce((a, b) => a + b) / 60
    expect(Math.abs(mean(middleRow(0)) - 0.55)).toBeLessThan(0.06)
  })

  test('`sharp` leaves all blur out', () => {
    const view = viewAt(camera, 0, 0, IDENTITY)
    const light = exposeLens(sampleScene(scene, camera, view), camera, view, { sharp: true })
    expect(contrast(light.planes[0].data.slice(80 * 240 + 10, 80 * 240 + 60))).toBeGreaterThan(0.65)
  })
})

describe('the sensor', () => {
  const even = (value: number) => {
    const light = createPicture(80, 80)
    light.planes.forEach(({ data }) => data.fill(value))
    return light
  }
  const spread = (data: Float32Array) => {
    const mean = data.reduce((a, b) => a + b) / data.length
    return Math.sqrt(data.reduce((a, b) => a + (b - mean) ** 2, 0) / data.length)
  }

  test('fewer photons mean more noise, by the square root', () => {
    const shot = (fullWell: number) => develop(even(0.4), { fullWell, readNoise: 0, exposure: 1, softness_px: 0.3 }, 1).planes[0].data
    expect(spread(shot(1000)) / spread(shot(16_000))).toBeGreaterThan(3.3)
    expect(spread(shot(1000)) / spread(shot(16_000))).toBeLessThan(4.7)
  })

  test('light is encoded as sRGB and clipped', () => {
    expect(developSharp(even(1.25 * 0.5)).planes[0].data[0]).toBeCloseTo(0.7354, 3)
    expect(developSharp(even(9)).planes[0].data[0]).toBeCloseTo(1, 6)
    expect(developSharp(even(0)).planes[0].data[0]).toBe(0)
  })
})

describe('scenes', () => {
  test.each(Object.keys(SCENES))('%s fills the picture and lies within its bounds', (name) => {
    const scene = SCENES[name](2)
    const view = viewAt({ ...camera, magnification: 0.5 }, scene.depth_mm / 2, scene.depth_mm / 2, IDENTITY)
    const { layers } = sampleScene(scene, { ...camera, width_px: 96, height_px: 64, magnification: 0.5 }, view, { density: 1 })
    const [backdrop] = layers
    expect(backdrop.backdrop).toBe(true)
    for (const layer of layers) {
      expect(layer.colour.every((value) => value >= 0 && value < 50)).toBe(true)
      expect(layer.inverseRange[1]).toBeGreaterThanOrEqual(layer.inverseRange[0])
      for (let row = 0; row < layer.height; row++) {
        const seen = Array.from({ length: layer.width }, (_, c) => layer.colour[(row * layer.width + c) * 4 + 3] > 0)
        expect(layer.spans[2 * row + 1]).toBe(seen.lastIndexOf(true) + 1)
        if (seen.includes(true)) expect(layer.spans[2 * row]).toBe(seen.indexOf(true))
      }
    }
  })

  test('a part of the picture is what the whole shows there', () => {
    const scene = SCENES.bristles(4)
    const view = viewAt({ ...camera, mover: 'rail' }, 3, 4, { scale: 1, rotation_rad: 0.01, dx_px: 3, dy_px: -2 })
    const sampled = sampleScene(scene, camera, viewAt(camera, 4, 4, IDENTITY))
    const whole = exposeLens(sampled, camera, view)
    const window = { x: 130, y: 40, width: 60, height: 50 }
    const part = exposeLens(sampled, camera, view, { window })
    for (let y = 0; y < window.height; y++)
      for (let x = 0; x < window.width; x++)
        expect(Math.abs(part.planes[1].data[y * window.width + x] - whole.planes[1].data[(y + window.y) * 240 + x + window.x])).toBeLessThan(0.03)
  })
})

describe('a series', () => {
  test('is the same for the same request, and its reference stands still', () => {
    const [one, two] = [new SimulatedSeries(request), new SimulatedSeries(request)]
    expect(one.shoot(0).picture.planes[1].data).toEqual(two.shoot(0).picture.planes[1].data)
    expect(cornerDistance_px(one.shoot(one.reference).motion, IDENTITY, 240, 160)).toBeLessThan(1e-9)
  })

  test('each frame is sharpest where it is focused', () => {
    const series = new SimulatedSeries({ ...request, unsteadiness: { shift_px: 0, rotation_deg: 0, exposure_ev: 0 } })
    const energy = (index: number) => {
      const { data } = series.shoot(index).picture.planes[1]
      let sum = 0
      for (let i = 1; i < data.length; i++) sum += (data[i] - data[i - 1]) ** 2
      return sum
    }
    // The ground lies far back: the frame focused on it has more fine detail than the one before everything.
    expect(energy(2)).toBeGreaterThan(1.5 * energy(0))
  })

  test('the truth is sharper than any frame', () => {
    const series = new SimulatedSeries(request)
    const detail = ({ data }: { data: Float32Array }) => data.reduce((sum, v, i) => sum + (i > 0 ? (v - data[i - 1]) ** 2 : 0), 0)
    expect(detail(series.truth().planes[1])).toBeGreaterThan(detail(series.shoot(1).picture.planes[1]))
  })
})
