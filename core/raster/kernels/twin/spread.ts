import { touch, wholes } from './light'
import { floats } from './memory'

/** Light is gathered in halves, quarters … of the picture from this radius, in places, up to so many halvings. */
const COARSER = 3
export const COARSEST = 5
/** Radius of the widest blur drawn. */
export const WIDEST = 120
/** Where the blur's radius changes by more than this from place to place, there is an edge and no slope. */
const STEEPEST = 0.3
/** A step of depth between neighbours that moves where a ray meets the surface by less than this, in samples, is let be. */
const CLOSE_ENOUGH = 0.1

function add(lights: Float32Array, place: number, light: number[], times: number): void {
  for (let c = 0; c < 4; c++) lights[4 * place + c] += light[c] * times
}

type Grid = { at: number; touched: number; width: number; height: number }

/**
 * Adds the light of one place, spread evenly over a disc about (x, y). Only where rows begin and end is noted, so a disc
 * costs its height, not its area (the difference form of a running sum; compare Crow, 1984). A disc is its radius, one over
 * its area, 8 bytes left free, and for each row from −radius: first place, its missing part, last place, its part.
 */
function spread(memory: ArrayBuffer, grid: Grid, x: number, y: number, disc: number, all: number[]): void {
  const { width, height } = grid
  const [lights, values] = [floats(memory, grid.at), floats(memory, disc)]
  const [rows, numbers] = [wholes(memory, grid.touched), wholes(memory, disc)]
  const [radius] = numbers
  const light = all.map((value) => value * values[1])
  for (let row = Math.max(0, y - radius); row <= Math.min(height - 1, y + radius); row++) {
    const ends = 4 * (row - y + radius + 1)
    let [left, right] = [x + numbers[ends], x + numbers[ends + 2]]
    let [missing, part] = [values[ends + 1], values[ends + 3]]
    if (right < 0 || left >= width) continue
    if (left < 0) {
      missing = left === -1 ? Math.max(0, missing - 1) : 0
      left = 0
    }
    if (right >= width) {
      right = width
      part = 0
    }
    touch(rows, row, left, Math.min(width, right + 1))
    const start = row * (width + 2)
    add(lights, start + left, light, 1 - missing)
    add(lights, start + left + 1, light, missing)
    add(lights, start + right, light, part - 1)
    if (part !== 0) add(lights, start + right + 1, light, -part)
  }
}

const discOf = (memory: ArrayBuffer, discs: number, radius: number) => wholes(memory, discs)[Math.floor(radius * 16 + 0.5)]

/** Gathers light in the block of places that it falls in, at the size that suits its blur. */
function gather(memory: ArrayBuffer, levels: number, x: number, y: number, radius: number, light: number[]): void {
  let level = 1
  while (level < COARSEST && radius >= COARSER * 2 ** level) level++
  const entry = wholes(memory, levels).subarray(8 * level, 8 * level + 8)
  const [blocks, touched, width, , left, top] = entry
  const [column, row] = [(x >> level) - left, (y >> level) - top]
  entry[6] = 1
  touch(wholes(memory, touched), row, column, column + 1)
  const block = floats(memory, blocks).subarray(8 * (row * width + column))
  ;[...light, radius, 1].forEach((value, c) => (block[c] += value))
}

/**
 * Reads a surface at every place of the picture's rows and spreads its light. Samples of `colour` (red, green, blue times
 * alpha, and alpha) and of `inverse` (one over the distance) begin `left` and `top` samples from the optical axis. The first
 * row begins at (`x0`, `y0`); `columns` holds the first column and the one behind the last for each. (u, v) is where a place
 * of the picture would be without accidents; samples per place there are `ratio` × (1 + `nearer` × inverse distance); a
 * camera pushed aside sees it `asideX` and `asideY` samples × inverse distance farther; and the
 * blur's radius is `blur` × what the inverse distance, as seen by this view, differs from `focus`. `middle` is a first guess
 * of the inverse distance. `discs` holds where the discs of radius 0, 1/16 … lie. `levels` holds 32 bytes for each size of the
 * picture: for its own the grid, touched, width, height, left and top; for the halves, quarters … the blocks (32 bytes each:
 * light, sum of radii, count), touched, width, height, left, top and whether it was used.
 */
export function projectLight(
  memory: ArrayBuffer,
  colour: number,
  inverse: number,
  width: number,
  height: number,
  left: number,
  top: number,
  columns: number,
  ratio: number,
  nearer: number,
  asideX: number,
  asideY: number,
  startU: number,
  startV: number,
  acrossU: number,
  acrossV: number,
  downU: number,
  downV: number,
  blur: number,
  focus: number,
  middle: number,
  x0: number,
  y0: number,
  discs: number,
  levels: number,
  from: number,
  to: number,
): void {
  const [colours, distances, ends] = [floats(memory, colour), floats(memory, inverse), wholes(memory, columns)]
  const [at, touched, gridWidth, gridHeight, gridLeft, gridTop] = wholes(memory, levels)
  const grid = { at, touched, width: gridWidth, height: gridHeight }
  const parallax = Math.abs(ratio * nearer)
  const aside = Math.abs(asideX) + Math.abs(asideY)
  let depth = middle
  for (let row = from; row < to; row++) {
    for (let x = ends[2 * row]; x < ends[2 * row + 1]; x++) {
      const u = startU + row * downU + (x - x0) * acrossU
      const v = startV + row * downV + (x - x0) * acrossV
      // Where a ray meets the surface depends on the surface's depth there; the neighbour's is nearly right.
      let again = true
      let i = -1
      let [tx, ty, sx, sy, s, slopeX, slopeY] = [0, 0, 0, 0, 0, 0, 0]
      const inside = () => sx >= 0 && sy >= 0 && sx < width - 1 && sy < height - 1
      const settle = () => {
        i = Math.floor(sy) * width + Math.floor(sx)
        ;[tx, ty] = [sx % 1, sy % 1]
      }
      for (let round = 0; round < 2 && again; round++) {
        s = ratio * (1 + nearer * depth)
        ;[sx, sy] = [u * s + asideX * depth - left, v * s + asideY * depth - top]
        i = -1
        if (!inside()) break
        settle()
        const above = distances[i] + tx * (distances[i + 1] - distances[i])
        const under = distances[i + width] + tx * (distances[i + width + 1] - distances[i + width])
        const here = above + ty * (under - above)
        ;[slopeX, slopeY] = [distances[i + 1] - distances[i], under - above]
        again = Math.abs(here - depth) * (parallax * (Math.abs(u) + Math.abs(v)) + aside) > CLOSE_ENOUGH
        depth = here
      }
      if (i < 0) continue
      // A slanting surface sends its light unevenly over its disc, as each part of the lens sees it foreshortened otherwise.
      // That moves the disc by a quarter of its radius times the radius's slope.
      const away = 1 + nearer * depth
      const signed = blur * (focus - depth / away)
      const change = (-blur / away ** 2) * s
      if (Math.abs(change * slopeX) + Math.abs(change * slopeY) < STEEPEST) {
        sx -= 0.25 * signed * change * slopeX * s
        sy -= 0.25 * signed * change * slopeY * s
        if (inside()) settle()
      }
      const along = (place: number, c: number) => (1 - tx) * colours[4 * place + c] + tx * colours[4 * place + 4 + c]
      const light = [0, 1, 2, 3].map((c) => (1 - ty) * along(i, c) + ty * along(i + width, c))
      if (light[3] === 0) continue
      const radius = Math.min(WIDEST, Math.abs(signed))
      if (radius < COARSER) spread(memory, grid, x - gridLeft, y0 + row - gridTop, discOf(memory, discs, radius), light)
      else gather(memory, levels, x, y0 + row, radius, light)
    }
  }
}

/**
 * Spreads the blocks of a level of the picture, `left` and `top` places away from its grid, and empties them. Blocks of
 * `size` px and their enlargement soften too: discs are made smaller by as much, `softer` being what that is of the square of
 * their radius.
 */
export function spreadBlocks(
  memory: ArrayBuffer,
  grid: number,
  gridTouched: number,
  gridWidth: number,
  gridHeight: number,
  left: number,
  top: number,
  size: number,
  softer: number,
  blocks: number,
  touched: number,
  width: number,
  discs: number,
  from: number,
  to: number,
): void {
  const [values, ends] = [floats(memory, blocks), wholes(memory, touched)]
  const target = { at: grid, touched: gridTouched, width: gridWidth, height: gridHeight }
  for (let row = from; row < to; row++) {
    for (let column = ends[2 * row]; column < ends[2 * row + 1]; column++) {
      const block = values.subarray(8 * (row * width + column), 8 * (row * width + column) + 8)
      const [red, green, blue, alpha, radii, count] = block
      if (count === 0) continue
      const radius = Math.sqrt(Math.max(0, (radii / count) ** 2 - softer))
      const light = [red, green, blue, alpha].map((value) => value / size ** 2)
      spread(memory, target, column + left, row + top, discOf(memory, discs, radius / size), light)
      block.fill(0)
    }
    ends[2 * row] = width
    ends[2 * row + 1] = 0
  }
}
