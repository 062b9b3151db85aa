import { createPlane, gridIn, type Grid, type Plane } from '../raster'

/** Side of a cell, in px of maps, in which it is asked who is sharpest. */
export const CELL_px = 3

export const gridOf = (map: Pick<Plane, 'width' | 'height'>): Grid => gridIn(map, CELL_px)

/** Mean of a plane in each cell; a plane with a place a cell. */
export function cellMeans(plane: Plane): Plane {
  const { across, down } = gridOf(plane)
  const cells = createPlane(across, down)
  for (let y = 0; y < down * CELL_px; y++) {
    const row = Math.floor(y / CELL_px) * across
    for (let x = 0, i = y * plane.width; x < across * CELL_px; x++, i++) cells.data[row + Math.floor(x / CELL_px)] += plane.data[i]
  }
  for (let k = 0; k < cells.data.length; k++) cells.data[k] /= CELL_px ** 2
  return cells
}

/** The cell that a place of a map lies in, or the nearest one at its border. */
export function cellAt({ across, down }: Grid, x: number, y: number): number {
  return Math.min(down - 1, Math.floor(y / CELL_px)) * across + Math.min(across - 1, Math.floor(x / CELL_px))
}
