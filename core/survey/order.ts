import { quantile } from '../statistics'
import type { FrameFacts } from './frameFacts'

/** Tiles whose sharpness changes by less than this factor over the series show nothing of the focus. */
const CHANGES = 3
/** Energy of a tile that shows something, in that of the emptiest tiles. */
const TEXTURE = 12
/** A tile's sharpness below this part of its best says no more than "far out of focus". */
const FLOOR = 0.02

/** How sharp each telling tile is in each frame, as logarithm of the part of the tile's best: 0 best, about −4 worst. */
export interface Profiles {
  tiles: number[]
  /** A row a frame, in the order of the frames given. */
  rows: Float64Array[]
}

/** The profiles of a series on the tiles that focus passes through. */
export function profilesOf(frames: FrameFacts[]): Profiles {
  const count = frames[0].sharpness.length
  const best = Array.from({ length: count }, (_, tile) => Math.max(...frames.map(({ sharpness }) => sharpness[tile])))
  const least = leastOf(frames)
  const noise = noiseOf(least)
  const tiles = best.flatMap((value, tile) => (value > CHANGES * least[tile] && value > TEXTURE * noise ? [tile] : []))
  const rows = frames.map(({ sharpness }) => Float64Array.from(tiles, (tile) => Math.log(Math.max(FLOOR, sharpness[tile] / best[tile]))))
  return { tiles, rows }
}

/** Tiles that show more than noise in every frame, whatever the focus does there. */
export function texturedTiles(frames: FrameFacts[]): number[] {
  const least = leastOf(frames)
  const noise = noiseOf(least)
  return [...least].flatMap((value, tile) => (value > TEXTURE * noise ? [tile] : []))
}

const leastOf = (frames: FrameFacts[]) => frames[0].sharpness.map((_, tile) => Math.min(...frames.map(({ sharpness }) => sharpness[tile])))
const noiseOf = (least: Float64Array) => Math.max(1e-9, quantile([...least], 0.02))

/** Mean difference of two frames' profiles: how far apart their focus lies, in no unit. */
export function apart(a: Float64Array, b: Float64Array): number {
  let sum = 0
  for (let k = 0; k < a.length; k++) sum += Math.abs(a[k] - b[k])
  return a.length > 0 ? sum / a.length : 0
}

/**
 * Frames in the order of their focus, either end first, as indices: the shortest path through all of them by the
 * differences of their profiles. Begun from the two frames that lie farthest apart in the tree of nearest neighbours,
 * then improved by turning round and moving stretches until nothing gets shorter.
 */
export function focusOrder({ rows }: Profiles): number[] {
  const count = rows.length
  if (count < 3) return rows.map((_, k) => k)
  const distance = rows.map((a) => rows.map((b) => apart(a, b)))
  const start = farthestInTree(spanningTree(distance), 0)
  const away = treeDistances(spanningTree(distance), start)
  const path = rows.map((_, k) => k).sort((a, b) => away[a] - away[b])
  while (improve(path, distance));
  return path
}

/** Neighbours in the minimum spanning tree (Prim, 1957), with their distances. */
function spanningTree(distance: number[][]): { to: number; length: number }[][] {
  const count = distance.length
  const tree: { to: number; length: number }[][] = distance.map(() => [])
  const nearest = distance[0].map((length) => ({ from: 0, length }))
  const left = new Set(distance.keys())
  left.delete(0)
  for (let n = 1; n < count; n++) {
    const next = [...left].reduce((a, b) => (nearest[b].length < nearest[a].length ? b : a))
    const { from, length } = nearest[next]
    tree[from].push({ to: next, length })
    tree[next].push({ to: from, length })
    left.delete(next)
    for (const k of left) if (distance[next][k] < nearest[k].length) nearest[k] = { from: next, length: distance[next][k] }
  }
  return tree
}

function treeDistances(tree: { to: number; length: number }[][], start: number): number[] {
  const away = new Array<number>(tree.length).fill(Infinity)
  away[start] = 0
  const open = [start]
  for (let here = open.pop(); here !== undefined; here = open.pop()) {
    for (const { to, length } of tree[here]) {
      if (away[to] < Infinity) continue
      away[to] = away[here] + length
      open.push(to)
    }
  }
  return away
}

function farthestInTree(tree: { to: number; length: number }[][], from: number): number {
  const away = treeDistances(tree, from)
  return away.indexOf(Math.max(...away))
}

/** One round of improvements: turns stretches round (2-opt) and moves single frames (or-opt). True where one was found. */
function improve(path: number[], distance: number[][]): boolean {
  const count = path.length
  const between = (a: number, b: number) => (a < 0 || b >= count ? 0 : distance[path[a]][path[b]])
  let found = false
  for (let i = 0; i < count - 1; i++) {
    for (let j = i + 1; j < count; j++) {
      const before = between(i - 1, i) + between(j, j + 1)
      const after = (i > 0 ? distance[path[i - 1]][path[j]] : 0) + (j < count - 1 ? distance[path[i]][path[j + 1]] : 0)
      if (after < before - 1e-9) {
        path.splice(i, j - i + 1, ...path.slice(i, j + 1).reverse())
        found = true
      }
    }
  }
  for (let i = 0; i < count; i++) {
    const [frame] = path.splice(i, 1)
    let place = i
    let least = Infinity
    for (let k = 0; k <= path.length; k++) {
      const left = k > 0 ? distance[path[k - 1]][frame] : 0
      const right = k < path.length ? distance[frame][path[k]] : 0
      const joined = k > 0 && k < path.length ? distance[path[k - 1]][path[k]] : 0
      const cost = left + right - joined
      if (cost < least - (k === i ? -1e-9 : 1e-9)) {
        least = cost
        place = k
      }
    }
    path.splice(place, 0, frame)
    if (place !== i) found = true
  }
  return found
}

/** Kendall's rank correlation of places with their own order: 1 where they rise, −1 where they fall. */
export function agreement(places: number[]): number {
  let sum = 0
  for (let i = 0; i < places.length; i++) for (let j = i + 1; j < places.length; j++) sum += Math.sign(places[j] - places[i])
  return places.length > 1 ? sum / ((places.length * (places.length - 1)) / 2) : 1
}
