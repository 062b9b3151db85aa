/** Cells across and down that lie whole in a picture. */
export interface Grid {
  across: number
  down: number
}

/** The grid of square cells, each so many px wide, that a picture has room for; one cell at the least. */
export const gridIn = ({ width, height }: { width: number; height: number }, cell_px: number): Grid => ({
  across: Math.max(1, Math.floor(width / cell_px)),
  down: Math.max(1, Math.floor(height / cell_px)),
})
