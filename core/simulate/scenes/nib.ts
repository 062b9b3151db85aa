import { fractalNoise, noise } from '../random'
import { reliefLayer } from '../relief'
import { smoothStep, type Scene, type Vector } from '../scene'
import { strandLayer, type Strand } from '../strand'

const WIDTH_mm = 92
const HEIGHT_mm = 64
const DEPTH_mm = 34
/** The desk rises away from the camera: depth lost per mm down the picture. */
const DESK_SLOPE = 0.52

/** A fountain-pen nib lying on written paper, seen along the slope of the desk; two pins hold the sheet. */
export function nibScene(seed: number): Scene {
  const strands = pins()
  const relief = reliefLayer(
    {
      width_mm: WIDTH_mm,
      height_mm: HEIGHT_mm,
      depth: (x, y) => paperDepth(y) - nib(x, y).height,
      grain: (x, y) => (nib(x, y).height > 0 ? 0.0015 * noise(x * 3, y * 40, seed) : 0.012 * fractalNoise(x * 6, y * 6, seed + 1, 3)),
      material: (x, y) => (nib(x, y).height > 0 ? metal(x, y, seed) : paper(x, y, seed)),
    },
    strands,
  )
  return { depth_mm: DEPTH_mm, layers: [relief, ...strands.map(strandLayer)] }
}

function paperDepth(y: number): number {
  return DEPTH_mm / 2 + 2 - DESK_SLOPE * y
}

/** The nib's own coordinates: `along` from the tip, `across` from its axis, and its height above the paper. */
function nib(x: number, y: number): { along: number; across: number; half: number; height: number } {
  const turn = -0.5
  const dx = x + 22
  const dy = y - 15
  const along = dx * Math.cos(turn) - dy * -Math.sin(turn)
  const across = dx * Math.sin(-turn) + dy * Math.cos(turn)
  const half = 0.5 + 7.2 * smoothStep(-2, 30, along) + 0.8 * smoothStep(28, 32, along) * (1 - smoothStep(32, 36, along))
  if (along < 0 || along > 52 || Math.abs(across) > half) return { along, across, half, height: 0 }
  const curve = Math.sqrt(Math.max(0, 1 - (across / half) ** 2))
  const slit = along < 27 ? 0.5 * (1 - smoothStep(0.03, 0.16, Math.abs(across))) : 0
  const hole = 0.9 * (1 - smoothStep(1, 1.5, Math.hypot(along - 28, across)))
  return { along, across, half, height: Math.max(0.02, 0.6 + 0.11 * along + 0.72 * half * curve - slit - hole - 0.72 * half * 0.35) }
}

function metal(x: number, y: number, seed: number) {
  const { along, across, half } = nib(x, y)
  const rim = smoothStep(0.62, 0.66, Math.abs(across) / half) * (1 - smoothStep(0.8, 0.84, Math.abs(across) / half))
  const scroll = smoothStep(0.55, 0.9, Math.sin(along * 0.9 + 2.2 * Math.sin(across * 1.1)) * Math.cos(across * 1.6)) * smoothStep(8, 12, along)
  const brushed = 0.92 + 0.16 * fractalNoise(along * 2, across * 22, seed + 5, 3)
  const gold = 1 - Math.max(rim, 0.75 * scroll)
  const albedo: Vector = [(0.42 + 0.14 * gold) * brushed, (0.4 + 0.01 * gold) * brushed, (0.38 - 0.2 * gold) * brushed]
  const ink = 0.8 * smoothStep(0.4, 0.6, fractalNoise(along * 0.7, across * 0.9, seed + 8, 3)) * (1 - smoothStep(5, 12, along))
  return {
    albedo: albedo.map((v, k) => v * (1 - ink) + ink * [0.02, 0.03, 0.09][k]) as Vector,
    gloss: 0.3 * (1 - 0.6 * ink),
    shininess: 90,
    mirror: 0.8 * (1 - ink),
  }
}

function paper(x: number, y: number, seed: number) {
  const fibre = fractalNoise(x * 3.2, y * 7, seed + 12, 4)
  const tone = 0.43 + 0.2 * (fibre - 0.5)
  const line = handwriting(x, y)
  const albedo: Vector = [tone, tone * 0.965, tone * 0.88]
  return { albedo: albedo.map((v, k) => v * (1 - line) + line * [0.03, 0.045, 0.14][k]) as Vector, gloss: 0.01, shininess: 6 }
}

/** Lines of looped strokes, as a steady hand leaves them: 1 on the ink, 0 on bare paper. */
function handwriting(x: number, y: number): number {
  const row = Math.round(y / LINE_mm)
  const word = Math.sin(x * 0.21 + row * 2.1) + 0.6 * Math.sin(x * 0.083 + row)
  if (word < -0.55 || x < -40 + 3 * Math.sin(row * 5)) return 0
  const v = y - row * LINE_mm
  if (Math.abs(v) > 2) return 0
  const stroke = strokeOf(row)
  // The pen is never farther along than its loops are wide.
  const middle = Math.round((x + WIDTH_mm / 2) / PEN_STEP_mm)
  const [from, to] = [Math.max(0, middle - LOOP_STEPS), Math.min(stroke.length / 2 - 2, middle + LOOP_STEPS)]
  let nearest = Infinity
  for (let k = from; k <= to; k++) nearest = Math.min(nearest, awaySquared(stroke, k, x, v))
  return 1 - smoothStep(0.1, 0.24, Math.sqrt(nearest))
}

const LINE_mm = 7.5
const PEN_STEP_mm = 0.05
const LOOP_STEPS = 23
/** Points of a stroke that lie farther apart than this were not joined: the pen was lifted. */
const LIFTED_mm = 0.5
const strokes = new Map<number, Float64Array>()

/** Where the pen went in a line of writing: x and height above the line in turn, a step apart in time. */
function strokeOf(row: number): Float64Array {
  const known = strokes.get(row)
  if (known) return known
  const stroke = new Float64Array(2 * Math.ceil(WIDTH_mm / PEN_STEP_mm))
  for (let k = 0; k < stroke.length / 2; k++) {
    const t = k * PEN_STEP_mm - WIDTH_mm / 2
    const tall = 0.75 + 0.85 * (Math.sin(t * 1.7 + row * 1.3) > 0.45 ? 1 : 0) * Math.sin(t * 0.9)
    const height = -tall * Math.sin(t * 3.1 + row)
    stroke[2 * k] = t - 0.42 * Math.cos(t * 3.1 + row) - 0.3 * height
    stroke[2 * k + 1] = height
  }
  strokes.set(row, stroke)
  return stroke
}

/** Square of the distance of (x, v) from the stroke between its points k and k + 1. */
function awaySquared(stroke: Float64Array, k: number, x: number, v: number): number {
  const [dx, dv] = [x - stroke[2 * k], v - stroke[2 * k + 1]]
  const [ax, av] = [stroke[2 * k + 2] - stroke[2 * k], stroke[2 * k + 3] - stroke[2 * k + 1]]
  const lengthSquared = ax * ax + av * av
  const t = lengthSquared > LIFTED_mm ** 2 ? 0 : Math.min(1, Math.max(0, (dx * ax + dv * av) / lengthSquared))
  return (dx - t * ax) ** 2 + (dv - t * av) ** 2
}

function pins(): Strand[] {
  const steel = () => ({ albedo: [0.5, 0.52, 0.55] as Vector, gloss: 0.6, shininess: 50, mirror: 0.7 })
  return [
    [-38, -19],
    [37, 12],
  ].map(([x, y]) => ({
    from: [x, y, paperDepth(y)] as Vector,
    to: [x + 2.5, y - 11, paperDepth(y) - 12] as Vector,
    fromRadius_mm: 0.3,
    toRadius_mm: 0.42,
    material: steel,
  }))
}
