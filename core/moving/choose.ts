import type { Plane } from '../raster'
import { componentsOf } from './components'

/** How the frames of a series see what moved, in cells. */
export interface Seen {
  across: number
  down: number
  /** Cells that moved. */
  moved: Uint8Array
  /** For each frame the detail in each cell. */
  detail: Plane[]
  /** How two frames disagree in each cell. */
  apart(a: number, b: number): Float32Array
}

interface Region {
  frame: number
  /** For each frame the detail that is lost if all of it is shown from that one. */
  losses: Float64Array
}

/**
 * Which frame shows each cell that moved, −1 elsewhere. Begins with the sharpest frame of each cell, and joins regions that lie
 * side by side, shown by one frame, as long as what disagrees along their border is more than the detail that this costs:
 * a border stays only where frames agree.
 */
export function chooseFrames(seen: Seen): Int16Array {
  const { across, down, moved, detail } = seen
  const sharpest = Int16Array.from(moved, (is, cell) => (is ? sharpestAround(detail, across, down, cell) : -1))
  const { group, count } = componentsOf(sharpest, across, down, false)
  const regions = Array.from({ length: count }, (): Region => ({ frame: 0, losses: new Float64Array(detail.length) }))
  group.forEach((at, cell) => {
    if (at < 0) return
    const most = detail.reduce((high, { data }) => Math.max(high, data[cell]), 0)
    regions[at].frame = sharpest[cell]
    detail.forEach(({ data }, k) => (regions[at].losses[k] += most - data[cell]))
  })
  const borders = new Borders(seen, group, regions)
  for (let join = borders.best(); join; join = borders.best()) borders.join(join)
  return Int16Array.from(group, (at) => (at < 0 ? -1 : regions[borders.now(at)].frame))
}

/** The sharpest frame of a cell and those beside it, the cell itself counting as much as all of them. */
function sharpestAround(detail: Plane[], across: number, down: number, cell: number): number {
  const [x, y] = [cell % across, Math.floor(cell / across)]
  const beside = [x > 0 && cell - 1, x < across - 1 && cell + 1, y > 0 && cell - across, y < down - 1 && cell + across]
  const around = beside.filter((other) => other !== false)
  const told = detail.map(({ data }) => data[cell] * around.length + around.reduce((sum, other) => sum + data[other], 0))
  return told.indexOf(Math.max(...told))
}

interface Join {
  into: number
  from: number
  frame: number
}

/** Where two regions touch: pairs of cells, and what joining them would gain, as long as neither changes. */
interface Border {
  regions: [number, number]
  cells: number[]
  told?: { gain: number; frame: number }
}

/** The regions of a picture and their borders, which become fewer as regions are joined. */
class Borders {
  private readonly borders = new Map<number, Border>()
  /** The region that each has become part of. */
  private readonly into: Int32Array

  constructor(
    private readonly seen: Seen,
    group: Int32Array,
    private readonly regions: Region[],
  ) {
    this.into = Int32Array.from(regions, (_, k) => k)
    const { across, down } = seen
    const touch = (a: number, b: number) => {
      if (group[a] >= 0 && group[b] >= 0 && group[a] !== group[b]) this.border(group[a], group[b]).cells.push(a, b)
    }
    for (let y = 0; y < down; y++)
      for (let x = 0, cell = y * across; x < across; x++, cell++) {
        if (x < across - 1) touch(cell, cell + 1)
        if (y < down - 1) touch(cell, cell + across)
      }
  }

  /** The region that a first region belongs to now. */
  now(region: number): number {
    let at = region
    while (this.into[at] !== at) at = this.into[at]
    return at
  }

  /** The join that gains most, if any gains. */
  best(): (Join & { gain: number }) | undefined {
    let best: (Join & { gain: number }) | undefined
    for (const border of this.borders.values()) {
      const { gain, frame } = (border.told ??= this.tell(border))
      if (gain > 0 && (!best || gain > best.gain)) best = { into: border.regions[0], from: border.regions[1], frame, gain }
    }
    return best
  }

  join({ into, from, frame }: Join): void {
    const { regions, borders } = this
    regions[into] = { frame, losses: regions[into].losses.map((loss, k) => loss + regions[from].losses[k]) }
    this.into[from] = into
    borders.delete(this.key(into, from))
    for (const [key, border] of borders) {
      const [a, b] = border.regions
      if (a === from || b === from) {
        borders.delete(key)
        const kept = this.border(into, a === from ? b : a)
        for (const cell of border.cells) kept.cells.push(cell)
        kept.told = undefined
      } else if (a === into || b === into) border.told = undefined
    }
  }

  private tell({ regions: [one, other], cells }: Border): { gain: number; frame: number } {
    const [a, b] = [this.regions[one], this.regions[other]]
    // What one frame shows already is one region, whatever that gains.
    if (a.frame === b.frame) return { gain: Infinity, frame: a.frame }
    const disagreement = this.seen.apart(a.frame, b.frame)
    const border = cells.reduce((sum, cell) => sum + disagreement[cell], 0) / 2
    const together = a.losses.map((loss, k) => loss + b.losses[k])
    const frame = together.indexOf(Math.min(...together))
    return { gain: border - (together[frame] - a.losses[a.frame] - b.losses[b.frame]), frame }
  }

  private border(a: number, b: number): Border {
    const key = this.key(a, b)
    const found = this.borders.get(key) ?? { regions: [Math.min(a, b), Math.max(a, b)], cells: [] }
    this.borders.set(key, found)
    return found
  }

  private key(a: number, b: number): number {
    return Math.min(a, b) * this.regions.length + Math.max(a, b)
  }
}
