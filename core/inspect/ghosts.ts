import { cellsOf, differenceIn, quantileOf } from './cells'
import { clustersOf, differenceFrom, isSafe, sharpestIn, type Evidence } from './findings'
import type { Finding } from './place'

/** From one frame to the next a part changes so many times more than from others around: it moved. Blur changes evenly. */
const JUMP = 3
/** And by so many times what is usual anywhere. */
const LEAST_JUMP = 4
/** Frames on either side that tell what is even. */
const AROUND = 3
/** A frame in which the part lay elsewhere matters where it has this part of the sharpest one's detail. */
const MATTERS = 0.25
/** The fused picture differs from the one frame that shows it whole by so many times what is usual. */
const SEEN = 2
/** Cells that one suggestion covers each way. */
const MOST_CELLS = 8

/** Parts that moved between frames that both show them, so that the picture may show them twice. */
export function ghostsIn(evidence: Evidence): Finding[] {
  const { grid, detail, quarters } = evidence
  const count = quarters.length
  if (count < 4) return []
  const changes = quarters.slice(1).map((plane, k) => differenceIn(plane, quarters[k], grid, meanOf(plane.data) - meanOf(quarters[k].data)))
  const usual = quantileOf(
    changes.map((change) => quantileOf(change, 0.5)),
    0.5,
  )
  const cells = detail[0].length
  /** Frames in which a part lies where it does in most of them. */
  const steady: (Uint8Array | undefined)[] = []
  const marked = new Uint8Array(cells)
  for (let cell = 0; cell < cells; cell++) {
    const jumps = changes.flatMap((change, k) => (isJump(changes, k, cell, usual) && change[cell] > LEAST_JUMP * usual ? [k] : []))
    if (jumps.length === 0) continue
    const most = detail.reduce((high, energies) => Math.max(high, energies[cell]), 0)
    if (most < 4 * evidence.noise) continue
    const main = mainOf(jumps, quarters, evidence, cell)
    const moved = detail.reduce((high, energies, k) => (main[k] ? high : Math.max(high, energies[cell])), 0)
    if (moved < MATTERS * most) continue
    steady[cell] = main
    marked[cell] = 1
  }
  return clustersOf(marked, grid, MOST_CELLS).flatMap((rectangle) => {
    const inside = cellsOf(rectangle, grid)
    const own = inside.filter((cell) => marked[cell])
    const stands = (frame: number) => own.filter((cell) => steady[cell]![frame]).length > own.length / 2
    const frame = sharpestIn(own, evidence, stands)
    if (frame === undefined) return []
    const difference = differenceFrom(frame, evidence)
    const seen = own.reduce((sum, cell) => sum + difference[cell], 0) / own.length
    const blur = own.reduce((sum, cell) => sum + evenChange(changes, frame, cell), 0) / own.length
    const ratio = Math.sqrt(seen / (blur + usual))
    if (ratio < SEEN) return []
    const mended = own.reduce((sum, cell) => sum + difference[cell], 0)
    const moved = Array.from({ length: count }, (_, k) => k).filter((k) => !stands(k))
    return [
      {
        cells: rectangle,
        kind: 'ghost' as const,
        severity: Math.min(1, 0.3 + 0.12 * (ratio - SEEN) + 0.02 * own.length),
        frames: moved,
        suggestion: isSafe(rectangle, frame, mended, evidence) ? { frame } : null,
      },
    ]
  })
}

function isJump(changes: Float32Array[], k: number, cell: number, usual: number): boolean {
  const around: number[] = []
  for (let j = Math.max(0, k - AROUND); j <= Math.min(changes.length - 1, k + AROUND); j++) if (j !== k) around.push(changes[j][cell])
  return changes[k][cell] > JUMP ** 2 * (quantileOf(around, 0.5) + 0.2 * usual)
}

/** How much a cell changes from frame to frame by blur alone. */
function evenChange(changes: Float32Array[], frame: number, cell: number): number {
  const around = [frame - 2, frame - 1, frame, frame + 1].flatMap((k) => changes[k]?.[cell] ?? [])
  return quantileOf(around, 0.3)
}

/**
 * The frames that show a cell as most frames do. Jumps part the series into stretches; the longest one counts, and those that look
 * like it where it ends, as when a part came back.
 */
function mainOf(jumps: number[], quarters: Evidence['quarters'], { grid }: Evidence, cell: number): Uint8Array {
  const count = quarters.length
  const ends = [-1, ...jumps, count - 1]
  const stretches = ends.slice(1).map((end, n) => ({ from: ends[n] + 1, to: end }))
  const longest = stretches.reduce((a, b) => (b.to - b.from > a.to - a.from ? b : a))
  const main = new Uint8Array(count)
  const like = (a: number, b: number) => one(quarters[a], quarters[b], grid.across, cell)
  for (const stretch of stretches) {
    const before = stretch.to < longest.from
    const [near, own] = before ? [longest.from, stretch.to] : [longest.to, stretch.from]
    // The jump that parts it from the longest one: where it differs by much less than that, the part is back.
    const jump = before ? like(longest.from, longest.from - 1) : like(longest.to, Math.min(count - 1, longest.to + 1))
    if (stretch === longest || like(near, own) < 0.3 * jump) main.fill(1, stretch.from, stretch.to + 1)
  }
  return main
}

/** Mean square of a difference in one cell. */
function one(a: Evidence['quarters'][0], b: Evidence['quarters'][0], across: number, cell: number): number {
  const side = 3
  const [x, y] = [(cell % across) * side, Math.floor(cell / across) * side]
  let sum = 0
  for (let v = y; v < y + side; v++) for (let u = x; u < x + side; u++) sum += (a.data[v * a.width + u] - b.data[v * b.width + u]) ** 2
  return sum / side ** 2
}

const meanOf = (data: Float32Array) => data.reduce((sum, value) => sum + value, 0) / data.length
