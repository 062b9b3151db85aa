import { fractalNoise, noise, randomStream } from '../random'
import { smoothStep, type Layer, type Scene, type Vector } from '../scene'
import { NEAR_mm, upright } from './upright'

/** A terrace garden by daylight: a trough at arm's length, three walls, a gate, a hill; water runs and leaves sway. */
export function gardenScene(seed: number): Scene {
  const upright = [
    hill(seed),
    gate(seed),
    wall(5200, (x) => 420 + 60 * noise(x / 900, 0, seed), 260, seed + 3, 1250),
    wall(2400, (x) => 420 + 40 * noise(x / 500, 1, seed), 150, seed + 2, 850),
    wall(1250, (x) => 330 + 25 * noise(x / 300, 2, seed), 95, seed + 1, 1000),
    water(seed, 0),
    trough(seed),
    ...leaves(seed),
  ]
  return { depth_mm: 60_000 - NEAR_mm, layers: upright }
}

/** The hill's outline lies nowhere lower than this, mm. */
const RIDGE_LOWEST = -6500

export function hill(seed: number): Layer {
  const ridge = (x: number) => RIDGE_LOWEST - 3600 * fractalNoise(x / 24_000 + 3, 0, seed + 30, 4)
  return upright({
    at: 60_000,
    left: -60_000,
    right: 60_000,
    top: -42_000,
    bottom: 42_000,
    thick: 1,
    relief: () => 0,
    backdrop: true,
    inside: () => true,
    material: (x, y) => {
      const above = y < RIDGE_LOWEST && y < ridge(x)
      const haze = smoothStep(-9000, 4000, y)
      const tree = fractalNoise(x / 900, y / 700, seed + 31, 6)
      if (above)
        return {
          albedo: [0.62, 0.72, 0.86].map((v) => v * (0.9 + 0.12 * fractalNoise(x / 9000, y / 4000, seed + 33, 3))) as Vector,
          gloss: 0,
          shininess: 1,
        }
      const tone = 0.14 + 0.42 * tree ** 1.5
      return { albedo: [tone * (0.62 + 0.12 * haze), tone, tone * (0.5 + 0.2 * (1 - haze))] as Vector, gloss: 0, shininess: 1 }
    },
  })
}

function gate(seed: number): Layer {
  const [half, top, bottom] = [1150, -900, 1000]
  const bar = (x: number) => Math.abs((((x % 180) + 180) % 180) - 90) < 16
  const rail = (y: number) => Math.abs(y - top - 120) < 26 || Math.abs(y - 300) < 26
  const post = (x: number) => Math.abs(Math.abs(x) - half) < 130
  return upright({
    at: 9000,
    left: -half - 140,
    right: half + 140,
    top: top - 60,
    bottom,
    thick: 60,
    relief: (x, y) => (post(x) ? 40 + 14 * fractalNoise(x / 60, y / 60, seed + 40, 4) : 20),
    inside: (x, y) => post(x) || (Math.abs(x) < half && y > top + 60 * Math.cos((x / half) * 4) && (bar(x) || rail(y))),
    material: (x, y) => {
      const rust = fractalNoise(x / 30, y / 30, seed + 41, 4)
      if (post(x)) return { albedo: [0.5, 0.46, 0.4].map((v) => v * (0.5 + 0.8 * rust)) as Vector, gloss: 0, shininess: 1 }
      return { albedo: [0.1 + 0.2 * rust, 0.09 + 0.09 * rust, 0.09 + 0.04 * rust], gloss: 0.15, shininess: 20 }
    },
  })
}

/** A dry stone wall across the picture, down to where the next one hides it. `size` is that of its stones. */
export function wall(at: number, top: (x: number) => number, size: number, seed: number, bottom: number): Layer {
  const halfWidth = at
  const stone = (x: number, y: number) => {
    const brickRow = Math.floor(y / (size * 0.55))
    const shift = noise(brickRow * 7.3, 5, seed) * size
    const along = (x + shift) / (size * (0.8 + 0.5 * noise(brickRow * 3.1, 9, seed)))
    const cell = Math.floor(along)
    const edge = Math.min(along - cell, 1 - along + cell, y / (size * 0.55) - brickRow, 1 - y / (size * 0.55) + brickRow)
    return { edge, tone: noise(cell * 4.7, brickRow * 6.1, seed + 8) }
  }
  return upright({
    at,
    left: -halfWidth,
    right: halfWidth,
    top: top(0) - size * 1.5,
    bottom,
    thick: size * 0.4,
    relief: (x, y) => size * (0.22 * smoothStep(0, 0.16, stone(x, y).edge) + 0.12 * fractalNoise((x / size) * 4, (y / size) * 4, seed + 1, 5)),
    inside: (x, y) => y > top(x) + size * 0.3 * noise(x / size, 3, seed + 2),
    material: (x, y) => {
      const { edge, tone } = stone(x, y)
      const grain = fractalNoise((x / size) * 9, (y / size) * 9, seed + 5, 6)
      const moss = smoothStep(0.55, 0.75, fractalNoise((x / size) * 0.7, (y / size) * 0.7, seed + 6, 4))
      const value = (0.16 + 0.2 * tone + 0.4 * grain) * (0.35 + 0.65 * smoothStep(0, 0.1, edge))
      const albedo: Vector = [value * (1.04 - 0.45 * moss), value * (0.98 - 0.06 * moss), value * (0.88 - 0.6 * moss)]
      return { albedo, gloss: 0.01, shininess: 6 }
    },
  })
}

/** A sheet of water falling from a spout in the nearest wall, another every time. */
function water(seed: number, moment: number): Layer {
  const flow = (x: number, y: number) => fractalNoise(x / 7 + 31 * moment, y / 90 - 13 * moment, seed + 60, 4)
  return {
    ...upright({
      at: 1180,
      left: 320,
      right: 480,
      top: 345,
      bottom: 700,
      thick: 12,
      relief: (x, y) => 12 * flow(x, y),
      inside: (x, y) => Math.abs(x - 392) < 26 + 16 * (flow(3, y) - 0.5) + y / 60 && y > 350,
      material: (x, y) => {
        const value = 0.25 + 0.7 * smoothStep(0.35, 0.75, flow(x, y))
        return { albedo: [value * 0.86, value * 0.95, value], gloss: 0.8, shininess: 30 }
      },
    }),
    at: (next) => water(seed, next + 1),
  }
}

/** A carved trough at arm's length, lichen on its rim. */
export function trough(seed: number): Layer {
  const rim = (x: number) => 118 + 5 * noise(x / 60, 4, seed + 50)
  const groove = (x: number, y: number) => Math.abs(Math.sin(x / 21 + 0.6 * Math.sin(y / 40))) * smoothStep(150, 165, y)
  return upright({
    at: 660,
    left: -520,
    right: 190,
    top: 100,
    bottom: 420,
    thick: 90,
    // It bulges towards the camera, its middle the nearest.
    relief: (x, y) => 70 * Math.max(0, 1 - ((x + 120) / 420) ** 2) + 9 * groove(x, y) + 4 * fractalNoise(x / 9, y / 9, seed + 51, 5),
    inside: (x, y) => y > rim(x) && x < 160 - 0.12 * (y - 120) && x > -480,
    material: (x, y) => {
      const grain = fractalNoise(x / 3, y / 3, seed + 52, 6)
      const lichen = smoothStep(0.58, 0.64, fractalNoise(x / 26, y / 26, seed + 53, 4))
      const value = (0.18 + 0.62 * grain) * (0.6 + 0.4 * groove(x, y))
      return { albedo: [value * (1 + 0.35 * lichen), value * (0.95 + 0.25 * lichen), value * (0.86 - 0.3 * lichen)], gloss: 0.01, shininess: 8 }
    },
  })
}

/** Twigs with leaves from the upper left, each carried by the wind. */
function leaves(seed: number): Layer[] {
  const random = randomStream(seed + 70)
  return Array.from({ length: 7 }, (_, k) => {
    const at = 1050 - 55 * k + 30 * random()
    const [x0, y0] = [-430 + 300 * random(), -300 + 260 * random()]
    const turn = 0.5 + 0.9 * random()
    const [long, wide] = [70 + 40 * random(), 20 + 9 * random()]
    const along = (x: number, y: number) => ((x - x0) * Math.cos(turn) + (y - y0) * Math.sin(turn)) / long
    const across = (x: number, y: number) => (-(x - x0) * Math.sin(turn) + (y - y0) * Math.cos(turn)) / wide
    const tone = 0.7 + 0.5 * random()
    return upright({
      at,
      left: x0 - long,
      right: x0 + long,
      top: y0 - long,
      bottom: y0 + long,
      thick: 12,
      sway_mm: 3,
      relief: (x, y) => 12 * Math.max(0, 1 - Math.abs(across(x, y))),
      inside: (x, y) => Math.abs(across(x, y)) < 1 - along(x, y) ** 2,
      material: (x, y) => {
        const vein = smoothStep(0.04, 0.1, Math.abs(across(x, y))) * (0.8 + 0.2 * Math.abs(Math.sin(9 * along(x, y) + 4 * Math.abs(across(x, y)))))
        const value = tone * (0.55 + 0.45 * vein) * (0.8 + 0.3 * fractalNoise(x / 3, y / 3, seed + k, 3))
        return { albedo: [value * 0.3, value * 0.46, value * 0.14], gloss: 0.12, shininess: 12 }
      },
    })
  }).sort((a, b) => b.bounds.far - a.bounds.far)
}
