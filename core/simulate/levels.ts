import type { Rectangle } from '../raster'
import { COARSEST, type Kernels, type Workspace } from '../raster/kernels'
import { layDiscs } from './discs'

/** The picture at its own size, in halves, quarters … */
const COUNT = COARSEST + 1
/** Whole numbers that the kernels get for each, and which of them says that it was used. */
const ENTRY = 8
const USED = 6
const BLOCK_BYTES = 32

/** Light on a grid in the kernels' memory, four values a place; `left` and `top` in places of its own size. */
interface LightGrid {
  at: number
  touched: number
  width: number
  height: number
  left: number
  top: number
}

/** The picture at one size: the light on it, and what is gathered to be spread at that size. The finest gathers nothing. */
interface Level {
  grid: LightGrid
  gathering?: { blocks: LightGrid; fresh: LightGrid }
  /** Whether its memory was made dark once. */
  begun: boolean
}

/**
 * Light that is spread at the size that suits its blur: wide discs in halves, quarters, eighths of the picture. One is
 * made for a picture and used for its surfaces one after the other; the next one takes its memory.
 */
export class Levels {
  /** What the picture's kernels get: where their discs and sizes are listed. */
  readonly discs: number
  readonly table: number
  private readonly kernels: Kernels
  private readonly levels: Level[]
  /** The picture as covered so far. */
  private readonly below: number

  /** `frame` is what will be drawn; light comes from no farther than `margin` outside it. */
  constructor(
    readonly space: Workspace,
    private readonly frame: Rectangle,
    margin: number,
  ) {
    const { x, y, width, height } = frame
    this.kernels = space.kernels
    this.discs = layDiscs(space)
    this.table = space.bytes(COUNT * ENTRY * 4)
    this.below = space.bytes(width * height * 16)
    this.levels = [{ grid: placeGrid(space, x, y, x + width, y + height), begun: false }]
    let [left, top, right, bottom] = [x, y, x + width, y + height]
    for (let level = 1; level < COUNT; level++) {
      ;[left, top, right, bottom] = [Math.floor(left / 2) - 1, Math.floor(top / 2) - 1, Math.ceil(right / 2) + 1, Math.ceil(bottom / 2) + 1]
      const gathering = { blocks: placeBlocks(space, frame, margin, level), fresh: placeGrid(space, left, top, right, bottom) }
      this.levels.push({ grid: placeGrid(space, left, top, right, bottom), gathering, begun: false })
    }
    this.levels.forEach(({ grid, gathering }, level) => {
      const { at, touched, width, height, left, top } = gathering?.blocks ?? grid
      this.entry(level).set([at, touched, width, height, left, top, 0, 0])
    })
    this.picture().fill(0)
  }

  /** Makes ready for the light of a surface. */
  begin(): void {
    this.clear(this.levels[0])
    for (let level = 0; level < COUNT; level++) this.entry(level)[USED] = 0
  }

  /** Lays the light of a surface over the picture. Through a backdrop nothing is seen. */
  cover(backdrop: boolean): void {
    const [{ grid: fine }] = this.levels
    this.kernels.run('sumLight', [fine.at, fine.touched, fine.width], fine.height)
    // From the coarsest down: what was spread at one size is brought to the next.
    let arrived = false
    for (let level = COUNT - 1; level > 0; level--) {
      const gathered = this.entry(level)[USED] === 1
      if (!gathered && !arrived) continue
      const coarse = this.levels[level]
      if (!arrived) this.clear(coarse)
      if (gathered) this.spreadBlocks(coarse, level)
      if (level > 1) this.clear(this.levels[level - 1])
      this.enlarge(this.levels[level - 1].grid, coarse.grid)
      arrived = true
    }
    this.kernels.run('coverLight', [this.below, fine.at, fine.touched, fine.width, Number(backdrop)], fine.height)
  }

  /** The picture so far: red, green, blue and alpha of each place. */
  picture(): Float32Array {
    return new Float32Array(this.kernels.buffer(), this.below, this.frame.width * this.frame.height * 4)
  }

  private entry(level: number): Int32Array {
    return new Int32Array(this.kernels.buffer(), this.table + level * ENTRY * 4, ENTRY)
  }

  private clear(level: Level): void {
    const fresh = Number(!level.begun)
    for (const { at, touched, width, height } of [level.grid, ...(level.gathering ? [level.gathering.fresh] : [])])
      this.kernels.run('clearLight', [at, touched, width, fresh], height)
    level.begun = true
  }

  /** Spreads what was gathered; what comes from coarser levels already lies there as light. */
  private spreadBlocks({ grid, gathering }: Level, level: number): void {
    const { blocks, fresh } = gathering!
    const away = [blocks.left - grid.left, blocks.top - grid.top]
    const from = [blocks.at, blocks.touched, blocks.width, this.discs]
    this.kernels.run(
      'spreadBlocks',
      [fresh.at, fresh.touched, fresh.width, fresh.height, ...away, 2 ** level, softening(level), ...from],
      blocks.height,
    )
    this.kernels.run('sumLight', [fresh.at, fresh.touched, fresh.width], fresh.height)
    this.kernels.run('joinLight', [grid.at, grid.touched, grid.width, fresh.at, fresh.touched], grid.height)
  }

  private enlarge(fine: LightGrid, coarse: LightGrid): void {
    const from = [coarse.at, coarse.touched, coarse.width, coarse.left, coarse.top]
    this.kernels.run('enlargeLight', [fine.at, fine.touched, fine.width, fine.left, fine.top, ...from], fine.height)
  }
}

/**
 * What a level softens by itself, as a part of the square of a disc's radius (four times the variance along one side):
 * places are taken to the middle of their block, discs are counted in whole blocks, and each doubling blends neighbours.
 */
function softening(level: number): number {
  const blocks = (4 ** level - 1) / 12
  let doublings = 0
  for (let k = 1; k <= level; k++) doublings += 0.1875 * 4 ** k
  return 4 * (blocks + doublings)
}

/** Room for a grid. What lies there is anything until it is cleared for the first time. */
function placeGrid(space: Workspace, left: number, top: number, right: number, bottom: number): LightGrid {
  const [width, height] = [right - left, bottom - top]
  return { at: space.bytes((width + 2) * height * 16), touched: space.bytes(height * 8), width, height, left, top }
}

/** Empty blocks for the light of a level, from `margin` px around the picture too. */
function placeBlocks(space: Workspace, frame: Rectangle, margin: number, level: number): LightGrid {
  const left = ((frame.x - margin) >> level) - 1
  const top = ((frame.y - margin) >> level) - 1
  const width = ((frame.x + frame.width + margin) >> level) - left + 2
  const height = ((frame.y + frame.height + margin) >> level) - top + 2
  const at = space.bytes(width * height * BLOCK_BYTES)
  const touched = space.bytes(height * 8)
  new Uint8Array(space.kernels.buffer(), at, width * height * BLOCK_BYTES).fill(0)
  new Int32Array(space.kernels.buffer(), touched, height * 2).forEach((_, k, rows) => (rows[k] = k % 2 === 0 ? width : 0))
  return { at, touched, width, height, left, top }
}
