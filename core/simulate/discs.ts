import type { Workspace } from '../raster/kernels'

/** Discs differ in steps of a sixteenth of a place; the widest is that of the coarsest level. */
const STEPS = 16
const WIDEST = 4

/** Lays discs of radius 0, 1/16 … 4 places into the kernels' memory, as `projectLight` wants them, and answers where their list is. */
export function layDiscs(space: Workspace): number {
  const count = WIDEST * STEPS + 1
  const at = space.bytes(count * 4)
  for (let k = 0; k < count; k++) {
    const disc = layDisc(space, k)
    new Int32Array(space.kernels.buffer(), at, count)[k] = disc
  }
  return at
}

/** Found once for all pictures, by radius in steps. */
const found: number[][] = []

function layDisc(space: Workspace, step: number): number {
  const halves = (found[step] ??= halfWidths(step / STEPS))
  const radius = (halves.length - 1) / 2
  const length = 4 + halves.length * 4
  const at = space.bytes(length * 4)
  const values = new Float32Array(space.kernels.buffer(), at, length)
  const wholes = new Int32Array(space.kernels.buffer(), at, length)
  halves.forEach((half, row) => {
    const [left, right] = [0.5 - half, 0.5 + half]
    const i = 4 + 4 * row
    wholes[i] = Math.floor(left)
    values[i + 1] = left - Math.floor(left)
    wholes[i + 2] = Math.floor(right)
    values[i + 3] = right - Math.floor(right)
  })
  wholes[0] = radius
  values[1] = 1 / (2 * halves.reduce((sum, half) => sum + half, 0))
  return at
}

const ROUNDS = 60

/**
 * Half the width of each row of a disc. Counted in places, a disc is by up to a tenth wider or narrower than it is; so an
 * ellipse is taken that spreads light exactly as far as the disc to both sides (variance r²/4), for every radius: where blur
 * grows evenly over a surface, it must not jump.
 */
function halfWidths(radius: number): number[] {
  const aim = radius ** 2 / 4
  // A single place, when the disc lies within.
  if (radius === 0) return [0.5]
  let [across, down] = [Math.max(radius, 0.5), Math.max(radius, 0.5)]
  for (let round = 0; round < ROUNDS; round++) {
    const { x, y } = variances(rowsOf(across, down))
    across = closer(across, x, aim)
    down = closer(down, y, aim)
  }
  return rowsOf(across, down)
}

/** Up to half a place wide nothing reaches the next one; beyond, the variance grows with the square. */
const closer = (half: number, variance: number, aim: number) =>
  0.5 + (half - 0.5 + 1e-3) * Math.min(2, Math.sqrt((aim + 1e-9) / (variance + 1e-9))) - 1e-3

function rowsOf(across: number, down: number): number[] {
  const radius = Math.max(0, Math.ceil(down - 0.5))
  return Array.from({ length: 2 * radius + 1 }, (_, row) => across * meanHalfWidth((row - radius) / down, 0.5 / down))
}

const PARTS = 16

/** Mean half width of the unit disc over a row about `middle`, of which so much to both sides belongs to it. */
function meanHalfWidth(middle: number, half: number): number {
  let sum = 0
  for (let k = 0; k < PARTS; k++) sum += Math.sqrt(Math.max(0, 1 - (middle + ((2 * k + 1) / PARTS - 1) * half) ** 2))
  return sum / PARTS
}

/** How far light is spread along both sides, as counted in places. */
function variances(halves: number[]): { x: number; y: number } {
  const radius = (halves.length - 1) / 2
  let [area, x, y] = [0, 0, 0]
  halves.forEach((half, row) => {
    area += 2 * half
    y += 2 * half * (row - radius) ** 2
    for (let place = 1; place - 0.5 < half; place++) x += 2 * Math.min(1, half - place + 0.5) * place ** 2
  })
  return { x: x / area, y: y / area }
}
