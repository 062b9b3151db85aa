import type { Grid, Plane, Rectangle } from '../raster'
import { CELL_px, cellAt, gridOf } from './cells'
import { componentsOf } from './components'

/** A part that moved by itself and is shown whole from one frame. */
export interface MovedPart {
  /** Where it lies, in px of the reference frame. */
  box: Rectangle
  /** Its share of the picture, 0 … 1. */
  share: number
  /** A place inside it, px of the reference frame. */
  inside: { x: number; y: number }
  /** The frame that shows it. */
  frame: number
  /** How much of the sharpest frame's detail each frame has there, 0 … 1; 0 for frames that are not used. */
  sharpness: number[]
}

/** Who shows what moved: for each place of a small picture the frame, −1 where all do. */
export interface Owners {
  width: number
  height: number
  owner: Int16Array
  /** For each frame the cells in which it shows sharply what did not move, such as a wall behind grass; none of frames that are not used. */
  still: (Uint8Array | undefined)[]
}

export interface MovedParts extends Owners {
  parts: MovedPart[]
}

/** Where a frame is held back, as marks: in parts that another one shows, but for what stands still in them. */
export function heldBack({ width, height, owner, still }: Owners, frame: number): { width: number; height: number; data: Uint8Array } | undefined {
  const grid = gridOf({ width, height })
  const own = still[frame]
  const data = Uint8Array.from(owner, (shown, i) => Number(shown >= 0 && shown !== frame && !own?.[cellAt(grid, i % width, Math.floor(i / width))]))
  return data.includes(1) ? { width, height, data } : undefined
}

/** Parts smaller than this, of the picture, are not told of by themselves. */
const LEAST_SHARE = 0.001

interface Detail {
  used: number[]
  grid: Grid
  detail: Plane[]
}

/** The connected parts of what moved, the largest first, in px of a frame. */
export function partsOf(owners: Owners, frame_px: { width: number; height: number }, { used, grid, detail }: Detail): MovedParts {
  const { width, height, owner } = owners
  const { group, count } = componentsOf(owner, width, height, true)
  const scale = frame_px.width / width
  const found = Array.from({ length: count }, () => ({
    left: width,
    top: height,
    right: 0,
    bottom: 0,
    size: 0,
    place: 0,
    frame: 0,
    cells: new Set<number>(),
  }))
  group.forEach((at, i) => {
    if (at < 0) return
    const part = found[at]
    const [x, y] = [i % width, Math.floor(i / width)]
    part.left = Math.min(part.left, x)
    part.right = Math.max(part.right, x + 1)
    part.top = Math.min(part.top, y)
    part.bottom = Math.max(part.bottom, y + 1)
    part.size++
    part.place = i
    part.frame = owner[i]
    part.cells.add(Math.min(grid.down - 1, Math.floor(y / CELL_px)) * grid.across + Math.min(grid.across - 1, Math.floor(x / CELL_px)))
  })
  const told = found.filter(({ size }) => size >= LEAST_SHARE * owner.length).sort((a, b) => b.size - a.size)
  const frames = Math.max(...used) + 1
  return {
    ...owners,
    parts: told.map(({ left, top, right, bottom, size, place, frame, cells }) => {
      const sums = new Float64Array(frames)
      used.forEach((k, n) => cells.forEach((cell) => (sums[k] += detail[n].data[cell])))
      const most = Math.max(...sums, 1e-12)
      return {
        box: boxOf(left, top, right, bottom, scale),
        share: size / owner.length,
        inside: { x: Math.floor(((place % width) + 0.5) * scale), y: Math.floor((Math.floor(place / width) + 0.5) * scale) },
        frame,
        sharpness: Array.from(sums, (sum) => sum / most),
      }
    }),
  }
}

/** A place within a part, px of the reference frame, and the frame that is to show it. */
export interface Moment {
  x: number
  y: number
  frame: number
}

/** The same parts, those that are named shown from other frames. Places that lie in no part change nothing. */
export function withMoments(moved: MovedParts, moments: Moment[], frame_px: { width: number; height: number }): MovedParts {
  const { width, height } = moved
  const { group } = componentsOf(moved.owner, width, height, true)
  const owner = moved.owner.slice()
  const placeOf = ({ x, y }: { x: number; y: number }) => {
    const [u, v] = [Math.floor((x * width) / frame_px.width), Math.floor((y * height) / frame_px.height)]
    return u >= 0 && v >= 0 && u < width && v < height ? v * width + u : -1
  }
  for (const moment of moments) {
    const part = group[placeOf(moment)] ?? -1
    if (part >= 0) group.forEach((at, i) => at === part && (owner[i] = moment.frame))
  }
  return { ...moved, owner, parts: moved.parts.map((part) => ({ ...part, frame: owner[placeOf(part.inside)] })) }
}

function boxOf(left: number, top: number, right: number, bottom: number, scale: number): Rectangle {
  const [x, y] = [Math.round(left * scale), Math.round(top * scale)]
  return { x, y, width: Math.round(right * scale) - x, height: Math.round(bottom * scale) - y }
}
