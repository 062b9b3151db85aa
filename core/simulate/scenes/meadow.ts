import { fractalNoise, noise, randomStream } from '../random'
import { smoothStep, type Layer, type Scene, type Vector } from '../scene'
import { strandLayer } from '../strand'
import { hill, trough, wall } from './garden'
import { NEAR_mm, upright } from './upright'

/** A garden's edge on a windy day: grass right in front, a trough, a shrub whose twigs sway, a wall and a hill. */
export function meadowScene(seed: number): Scene {
  const layers = [
    hill(seed),
    wall(7000, (x) => 460 + 60 * noise(x / 900, 0, seed), 260, seed + 3, 4200),
    ...shrub(seed),
    trough(seed),
    ...grass(seed),
  ]
  return { depth_mm: 60_000 - NEAR_mm, layers }
}

/** Twigs of a shrub, one behind the other; each sways by itself with all its leaves. */
function shrub(seed: number): Layer[] {
  return Array.from({ length: 6 }, (_, k) => twig(2800 - 110 * k, seed + 80 + 7 * k, 150 * Math.sin(2.4 * k)))
}

/** Leaves in a loose grid, so that few of them have to be asked at each place. */
const GRID_mm = 95

function twig(at: number, seed: number, middle: number): Layer {
  const [cx, cy, rx, ry] = [-620 + middle, -60 - 0.4 * middle, 560, 430]
  /** Place along and across the leaf that covers (x, y), from −1 to 1 each, and its tone. */
  const leafAt = (x: number, y: number) => {
    const [column, row] = [Math.floor(x / GRID_mm), Math.floor(y / GRID_mm)]
    for (let v = row - 1; v <= row + 1; v++)
      for (let u = column - 1; u <= column + 1; u++) {
        const chance = (n: number) => noise(u * 3.7 + 0.5, v * 5.3 + 0.5, seed + n)
        const [px, py] = [(u + 0.2 + 0.6 * chance(0)) * GRID_mm, (v + 0.2 + 0.6 * chance(1)) * GRID_mm]
        if (((px - cx) / rx) ** 2 + ((py - cy) / ry) ** 2 > 1 || chance(2) < 0.38) continue
        const turn = 6 * chance(3)
        const along = ((x - px) * Math.cos(turn) + (y - py) * Math.sin(turn)) / 52
        const across = (-(x - px) * Math.sin(turn) + (y - py) * Math.cos(turn)) / 21
        if (Math.abs(across) < 1 - along * along) return { along, across, tone: 0.6 + 0.7 * chance(4) }
      }
    return undefined
  }
  return upright({
    at,
    left: cx - rx - GRID_mm,
    right: cx + rx + GRID_mm,
    top: cy - ry - GRID_mm,
    bottom: cy + ry + GRID_mm,
    thick: 14,
    sway_mm: 40,
    relief: (x, y) => 14 * (1 - Math.abs(leafAt(x, y)?.across ?? 1)),
    inside: (x, y) => leafAt(x, y) !== undefined,
    material: (x, y) => {
      const { along, across, tone } = leafAt(x, y) ?? { along: 0, across: 0, tone: 1 }
      const vein = smoothStep(0.05, 0.14, Math.abs(across)) * (0.75 + 0.25 * Math.abs(Math.sin(8 * along + 3 * Math.abs(across))))
      const value = tone * (0.5 + 0.5 * vein) * (0.75 + 0.4 * fractalNoise(x / 6, y / 6, seed + 9, 3))
      return { albedo: [value * 0.32, value * 0.46, value * 0.15] as Vector, gloss: 0.1, shininess: 12 }
    },
  })
}

/** Blades from below the picture, each carried by the wind. */
function grass(seed: number): Layer[] {
  const random = randomStream(seed + 90)
  const blades = Array.from({ length: 26 }, () => {
    const at = 680 + 900 * random()
    const foot = (0.12 + 0.6 * random()) * at
    const tone = 0.45 + 0.5 * random()
    const lean = 0.24 * (random() - 0.5)
    const from: Vector = [foot, 0.56 * at, at - NEAR_mm]
    const to: Vector = [foot + lean * at, (0.1 - 0.3 * random()) * at, at - NEAR_mm + 30 * (random() - 0.5)]
    const material = (along: number, around: number) => {
      const rib = 0.75 + 0.25 * Math.cos(9 * around)
      const value = tone * rib * (0.7 + 0.5 * noise(along / 5, at, seed))
      return { albedo: [value * 0.5, value * 0.6, value * 0.22] as Vector, gloss: 0.15, shininess: 14 }
    }
    return { ...strandLayer({ from, to, fromRadius_mm: 3.4, toRadius_mm: 0.8, material }), sway_mm: 18 }
  })
  return blades.sort((a, b) => b.bounds.far - a.bounds.far)
}
