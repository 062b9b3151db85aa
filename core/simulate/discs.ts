import type { Workspace } from '../raster/kernels'

/** Discs are told apart in steps of a sixteenth of a place; the widest is that of the coarsest level. */
const STEPS = 16
const WIDEST = 4

/** Lays discs of radius 0, 1/16 … 4 places into the kernels' memory, as `projectLight` wants them, and answers where their list is. */
export function layDiscs(space: Workspace): number {
  const count = WIDEST * STEPS + 1
  const at = space.bytes(count * 4)
  for (let k = 0; k < count; k++) {
    const disc = layDisc(space, k / STEPS)
    new Int32Array(space.kernels.buffer(), at, count)[k] = disc
  }
  return at
}

function layDisc(space: Workspace, radius: number): number {
  const reach = radius <= 0.5 ? 0 : Math.ceil(radius)
  const length = 4 + (2 * reach + 1) * 4
  const at = space.bytes(length * 4)
  const values = new Float32Array(space.kernels.buffer(), at, length)
  const wholes = new Int32Array(space.kernels.buffer(), at, length)
  let area = 0
  for (let dy = -reach, i = 4; dy <= reach; dy++, i += 4) {
    const half = reach === 0 ? 0.5 : meanHalfWidth(dy, radius)
    const [left, right] = [0.5 - half, 0.5 + half]
    wholes[i] = Math.floor(left)
    values[i + 1] = left - Math.floor(left)
    wholes[i + 2] = Math.floor(right)
    values[i + 3] = right - Math.floor(right)
    area += 2 * half
  }
  wholes[0] = reach
  values[1] = 1 / area
  return at
}

/** Mean half width of the disc over one row of places. */
function meanHalfWidth(dy: number, radius: number): number {
  let sum = 0
  for (let k = 0; k < 4; k++) sum += Math.sqrt(Math.max(0, radius ** 2 - (dy + (k + 0.5) / 4 - 0.5) ** 2))
  return sum / 4
}
