import { fractalNoise, noise, randomStream } from '../random'
import { reliefLayer } from '../relief'
import { smoothStep, type Scene, type Vector } from '../scene'
import { strandLayer, type Strand } from '../strand'

const WIDTH_mm = 46
const HEIGHT_mm = 32
const DEPTH_mm = 9
/** Growth of the coil: radius grows by e^(2π·GROWTH) a turn. */
const GROWTH = 0.115
const CORE_mm = 0.55
const RIBS_A_TURN = 38

/** A coiled shell, ribbed, half freed from its limestone; a preparator's brush reaches in from the right. */
export function fossilScene(seed: number): Scene {
  const strands = brush(seed)
  const surface = (x: number, y: number) => DEPTH_mm - Math.max(shellHeight(x, y, seed).height, matrixHeight(x, y, seed))
  const relief = reliefLayer(
    {
      width_mm: WIDTH_mm,
      height_mm: HEIGHT_mm,
      depth: surface,
      grain: (x, y) => 0.016 * fractalNoise(x * 9, y * 9, seed + 3, 3) + 0.006 * noise(x * 45, y * 45, seed + 9),
      material(x, y, z) {
        const shell = shellHeight(x, y, seed)
        // The surface is the higher of the two, so the depth tells which one it is.
        return shell.height > DEPTH_mm - z - 0.05 ? shellMaterial(x, y, shell.rib, seed) : stoneMaterial(x, y, seed)
      },
    },
    strands,
  )
  return { depth_mm: DEPTH_mm, layers: [relief, ...strands.map(strandLayer)] }
}

/** Height of the shell above the stone's floor, and where in its ribs a point lies (0 valley … 1 crest). */
function shellHeight(px: number, py: number, seed: number): { height: number; rib: number } {
  const x = px + 2.6
  const y = py - 0.3
  const radius = Math.hypot(x, y)
  const angle = Math.atan2(y, x) + Math.PI
  const turn = Math.log(Math.max(radius, 0.01) / CORE_mm) / (2 * Math.PI * GROWTH) - angle / (2 * Math.PI)
  const whorl = Math.floor(turn)
  const across = turn - whorl
  const along = whorl + angle / (2 * Math.PI)
  // The living chamber ends in a broken edge.
  const end = 3.74 + 0.05 * noise(across * 6, 1, seed)
  if (along > end || radius < CORE_mm * 0.3) return { height: 0, rib: 0 }
  const tube = Math.sqrt(Math.max(0, 1 - (2 * across - 1) ** 4))
  // Taken from the radius, not the whorl, so that neighbouring whorls meet at one height.
  const size = 0.72 * radius
  const phase = along * RIBS_A_TURN + 0.55 * Math.sin(across * Math.PI)
  const rib = 0.5 + 0.5 * Math.cos(2 * Math.PI * phase)
  const thickness = 0.62 * size
  const body = thickness * (0.62 + 0.62 * tube) + 0.085 * size * rib * tube
  return { height: 0.7 + Math.min(8.1, 0.8 + body) * smoothStep(0, 0.05, end - along), rib: rib * tube }
}

function matrixHeight(x: number, y: number, seed: number): number {
  const rolling = 2.6 * fractalNoise(x * 0.09 + 4, y * 0.09, seed + 20, 3)
  const chips = 0.9 * Math.abs(fractalNoise(x * 0.35, y * 0.35, seed + 30, 4) - 0.5)
  const cover = 3.4 * smoothStep(8, 19, x + 0.55 * y + 3 * (fractalNoise(x * 0.25, y * 0.25, seed + 40, 3) - 0.5))
  return rolling + 2 * chips + cover + 0.25 * fractalNoise(x * 1.7, y * 1.7, seed + 50, 3)
}

function shellMaterial(x: number, y: number, rib: number, seed: number) {
  const patina = fractalNoise(x * 0.5, y * 0.5, seed + 60, 4)
  const fine = fractalNoise(x * 7, y * 7, seed + 61, 4)
  const worn = smoothStep(0.55, 0.95, rib) * 0.5
  const tone = 0.62 + 0.55 * (fine - 0.5) + worn * 0.3
  const albedo: Vector = [tone * (0.46 + 0.16 * patina), tone * (0.31 + 0.11 * patina), tone * (0.19 + 0.05 * patina)]
  return { albedo, gloss: 0.1 + 0.16 * patina, shininess: 26 }
}

function stoneMaterial(x: number, y: number, seed: number) {
  const cloud = fractalNoise(x * 0.3, y * 0.3, seed + 70, 3)
  const grainy = fractalNoise(x * 11, y * 11, seed + 71, 4)
  const fleck = noise(x * 16, y * 16, seed + 72) > 0.86 ? 0.6 : 1
  const tone = (0.3 + 0.16 * cloud + 0.34 * (grainy - 0.5)) * fleck
  return { albedo: [tone * 1.05, tone, tone * 0.9] as Vector, gloss: 0.015, shininess: 8 }
}

/** Bristles that end in or above the relief, nearest first in depth: they cross in front of a far ground. */
function brush(seed: number): Strand[] {
  const random = randomStream(seed + 100)
  return Array.from({ length: 11 }, (_, k) => {
    const spread = k / 10 - 0.5
    const tipX = 3.6 + 1.6 * random() + Math.abs(spread) * 1.5
    const tipY = 1.2 + spread * 6.4 + random()
    const dark = 0.75 + 0.5 * random()
    return {
      from: [tipX, tipY, 1.4 + 3.2 * random()] as Vector,
      to: [27, -7.5 + spread * 4.5, -0.4 + 1.2 * random()] as Vector,
      fromRadius_mm: 0.035,
      toRadius_mm: 0.11,
      material: (along: number) => ({
        albedo: [0.5 * dark, 0.33 * dark, 0.17 * dark].map((v) => v * (0.9 + 0.2 * noise(along * 4, k, seed))) as Vector,
        gloss: 0.5,
        shininess: 40,
      }),
    }
  })
}
