import type { Grid, Plane, Rectangle } from '../raster'
import { cellsOf, CELL_px } from './cells'
import { clustersOf, worst, type Evidence } from './findings'
import type { Finding } from './place'

/** What counts as detail, in multiples of noise. */
const DETAIL = 8
/** Near and far lie so far apart, as a part of the series. */
const APART = 0.4
const MOST_HALOS = 6

/** Strips beside a near edge that are sharp in no frame: its blur lies over what is behind. */
export function halosIn({ grid, detail, noise }: Evidence): Finding[] {
  const { across, down } = grid
  const most = detail[0].map((_, cell) => detail.reduce((high, energies) => Math.max(high, energies[cell]), 0))
  const best = detail[0].map((_, cell) => detail.reduce((at, energies, k) => (energies[cell] > detail[at][cell] ? k : at), 0))
  const marked = new Uint8Array(most.length)
  const frames: [number, number][] = []
  for (let cell = 0; cell < marked.length; cell++) {
    const [x, y] = [cell % across, Math.floor(cell / across)]
    if (x < 1 || y < 1 || x >= across - 1 || y >= down - 1 || most[cell] > (DETAIL / 2) * noise) continue
    const around = [cell - 1, cell + 1, cell - across, cell + across].filter((other) => most[other] > DETAIL * noise).map((other) => best[other])
    if (around.length < 2) continue
    const [near, far] = [Math.min(...around), Math.max(...around)]
    if (far - near < APART * detail.length) continue
    marked[cell] = 1
    frames[cell] = [near, far]
  }
  const found = clustersOf(marked, grid, Infinity).map((rectangle): Finding => {
    const own = cellsOf(rectangle, grid).filter((cell) => marked[cell])
    return { cells: rectangle, kind: 'halo', severity: Math.min(0.35, 0.08 * own.length), frames: frames[own[0]], suggestion: null }
  })
  return worst(found, MOST_HALOS)
}

/** Samples this close to the top are clipped. */
const TOP = 0.995
/** So much of a cell. */
const SHARE = 0.5

/** Clipped highlights; a frame is suggested where it is not clipped there. */
export function clippedIn(fused: Plane, grid: Grid, darkest?: number): Finding[] {
  const marked = new Uint8Array(grid.across * grid.down)
  for (let cell = 0; cell < marked.length; cell++) {
    const [x, y] = [(cell % grid.across) * CELL_px, Math.floor(cell / grid.across) * CELL_px]
    let count = 0
    for (let v = y; v < y + CELL_px; v++) for (let u = x; u < x + CELL_px; u++) count += Number(fused.data[v * fused.width + u] >= TOP)
    marked[cell] = Number(count > SHARE * CELL_px ** 2)
  }
  const found = clustersOf(marked, grid, Infinity).map((cells): Finding => {
    const size = cellsOf(cells, grid).filter((cell) => marked[cell]).length
    return { cells, kind: 'clipped', severity: Math.min(0.5, 0.1 + 0.04 * size), frames: darkest === undefined ? [] : [darkest], suggestion: null }
  })
  return worst(found, 4)
}

/** Strips at the border that not all frames cover, as rectangles of the picture; `common` is what all cover. */
export function stripsOutside(common: Rectangle, { x, y, width, height }: Rectangle): Rectangle[] {
  const [right, bottom] = [x + width, y + height]
  const [innerRight, innerBottom] = [common.x + common.width, common.y + common.height]
  const strips = [
    { x, y, width, height: common.y - y },
    { x, y: innerBottom, width, height: bottom - innerBottom },
    { x, y: common.y, width: common.x - x, height: common.height },
    { x: innerRight, y: common.y, width: right - innerRight, height: common.height },
  ]
  return strips.filter((strip) => strip.width > 0 && strip.height > 0)
}
