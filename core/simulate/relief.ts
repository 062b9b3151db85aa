import { KEY_LIGHT, normalise, shade, type Layer, type Material, type Sight, type Vector } from './scene'
import { shadowOf, shadowReach, type Strand } from './strand'

export interface ReliefShape {
  width_mm: number
  height_mm: number
  /** Depth z at (x, y), in mm from the near edge. */
  depth(x: number, y: number): number
  material(x: number, y: number, z: number): Material
  /** Fine roughness added to the depth for shading only, in mm. */
  grain(x: number, y: number): number
}

const GRID = 900
const SHADOW_STEPS = 48
/** By so much the light has to pass what stands before it for all of it to arrive, and for none where it falls short by as much. */
const FULLY_LIT = 0.12

/**
 * A surface z(x, y) that fills the picture: the depth is kept on a grid together with the shadows it throws on itself
 * under the key light and how open each place is; colour and grain are computed where a ray arrives.
 */
export function reliefLayer(shape: ReliefShape, strands: Strand[] = []): Layer {
  const columns = GRID
  const rows = Math.round((GRID * shape.height_mm) / shape.width_mm)
  const cell = shape.width_mm / columns
  const depths = new Float32Array(columns * rows)
  for (let r = 0; r < rows; r++)
    for (let c = 0; c < columns; c++) depths[r * columns + c] = shape.depth((c - columns / 2) * cell, (r - rows / 2) * cell)
  const lit = castShadows(depths, columns, rows, cell)
  const far = most(depths)
  for (const strand of strands) shadeBy(strand, lit, depths, columns, cell, far)
  const open = openness(depths, columns, rows, cell)
  const at = (grid: Float32Array, x: number, y: number) => bilinear(grid, columns, rows, x / cell + columns / 2, y / cell + rows / 2)
  return {
    backdrop: true,
    bounds: {
      left: -shape.width_mm / 2,
      right: shape.width_mm / 2,
      top: -shape.height_mm / 2,
      bottom: shape.height_mm / 2,
      near: least(depths),
      far,
    },
    depthAt: (x, y) => at(depths, x, y),
    see(x, y, texel_mm, sight: Sight) {
      const z = at(depths, x, y)
      const e = Math.max(texel_mm, cell * 0.5)
      const fine = shape.grain(x, y)
      const slopeX = (at(depths, x + e, y) - at(depths, x - e, y)) / (2 * e) + (shape.grain(x + texel_mm, y) - fine) / texel_mm
      const slopeY = (at(depths, x, y + e) - at(depths, x, y - e)) / (2 * e) + (shape.grain(x, y + texel_mm) - fine) / texel_mm
      const normal: Vector = normalise([slopeX, slopeY, -1])
      sight.z = z
      sight.alpha = 1
      shade(sight, normal, shape.material(x, y, z), at(lit, x, y), at(open, x, y))
      return true
    },
  }
}

/** 1 where the key light arrives, 0 where the relief stands before it, soft in between. */
function castShadows(depths: Float32Array, columns: number, rows: number, cell: number): Float32Array {
  const lit = new Float32Array(columns * rows).fill(1)
  const across = Math.hypot(KEY_LIGHT[0], KEY_LIGHT[1])
  const rise = -KEY_LIGHT[2] / across
  const steps = Array.from({ length: SHADOW_STEPS }, (_, k) => (k + 1) * (k + 1) * 0.08 + k + 1)
  const [stepsX, stepsY] = [0, 1].map((axis) => Float64Array.from(steps, (distance) => (KEY_LIGHT[axis] / across) * distance))
  const lengths_mm = Float64Array.from(steps, (distance) => distance * cell)
  const nearest = least(depths)
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < columns; c++) {
      const here = depths[r * columns + c]
      let clearance = Infinity
      for (let k = 0; k < SHADOW_STEPS; k++) {
        const x = c + stepsX[k]
        const y = r + stepsY[k]
        if (x < 0 || y < 0 || x >= columns - 1 || y >= rows - 1) break
        // Nothing so far away can stand higher than the nearest place: it takes no more light than is gone, or none at all.
        const most = (nearest - here) / lengths_mm[k] + rise
        if (most >= clearance || most >= FULLY_LIT || clearance <= -FULLY_LIT) break
        clearance = Math.min(clearance, (depths[(y | 0) * columns + (x | 0)] - here) / lengths_mm[k] + rise)
      }
      lit[r * columns + c] = Math.min(1, Math.max(0, 0.5 + clearance / (2 * FULLY_LIT)))
    }
  }
  return lit
}

/** Takes the light away that a strand before the relief stops. */
function shadeBy(strand: Strand, lit: Float32Array, depths: Float32Array, columns: number, cell: number, deepest: number): void {
  const rows = depths.length / columns
  const reach = shadowReach(strand, deepest)
  for (let r = 0; r < rows; r++) {
    const y = (r - rows / 2) * cell
    const { left, right } = reach(y)
    const [first, last] = [Math.max(0, Math.floor(left / cell + columns / 2)), Math.min(columns - 1, Math.ceil(right / cell + columns / 2))]
    for (let c = first; c <= last; c++) lit[r * columns + c] *= shadowOf(strand, (c - columns / 2) * cell, y, depths[r * columns + c])
  }
}

/** How far from a place, in cells, it is looked for what stands around it, and in how many directions. */
const REACHES = [4, 10, 24, 48]
const COMPASS = Array.from({ length: 8 }, (_, k) => [Math.cos((k * Math.PI) / 4), Math.sin((k * Math.PI) / 4)])
const AROUND = REACHES.flatMap((distance) => COMPASS.map(([dx, dy]) => ({ distance, dx: Math.round(dx * distance), dy: Math.round(dy * distance) })))

/** How much of the sky a place sees: lower than its surroundings means less. */
function openness(depths: Float32Array, columns: number, rows: number, cell: number): Float32Array {
  const blocked = new Float32Array(columns * rows)
  for (const { distance, dx, dy } of AROUND) {
    const length_mm = distance * cell
    for (let r = 0; r < rows; r++) {
      const there = Math.min(rows - 1, Math.max(0, r + dy)) * columns
      for (let c = 0, i = r * columns; c < columns; c++, i++) {
        const x = c + dx
        const stands = (depths[i] - depths[there + (x < 0 ? 0 : x < columns ? x : columns - 1)]) / length_mm
        if (stands > 0) blocked[i] += stands
      }
    }
  }
  return blocked.map((sum) => 1 / (1 + (1.6 * sum) / AROUND.length))
}

function bilinear(grid: Float32Array, columns: number, rows: number, x: number, y: number): number {
  const cx = Math.min(columns - 1.001, Math.max(0, x))
  const cy = Math.min(rows - 1.001, Math.max(0, y))
  const i = (cy | 0) * columns + (cx | 0)
  const tx = cx - (cx | 0)
  const top = grid[i] + tx * (grid[i + 1] - grid[i])
  const bottom = grid[i + columns] + tx * (grid[i + columns + 1] - grid[i + columns])
  return top + (cy - (cy | 0)) * (bottom - top)
}

const least = (values: Float32Array) => values.reduce((a, b) => Math.min(a, b), Infinity)
const most = (values: Float32Array) => values.reduce((a, b) => Math.max(a, b), -Infinity)
