import type { Bend } from '../raster'
import type { Owners } from './parts'

/** Rounds in which what is known beside a part spreads into it. */
const ROUNDS = 60

/**
 * A bend without what was measured inside parts that are shown from one frame: there it goes on evenly from what lies around (a
 * membrane). A frame is bent to follow what moves; what is shown as that frame saw it is not to be.
 */
export function calmed(bend: Bend, { width, height, owner }: Owners, frame_px: { width: number; height: number }): Bend {
  const { columns, rows, left_px, top_px, spacingX_px, spacingY_px } = bend
  const inPart = (column: number, row: number) => {
    const x = Math.round(((left_px + column * spacingX_px) / frame_px.width) * width)
    const y = Math.round(((top_px + row * spacingY_px) / frame_px.height) * height)
    return owner[Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x))] >= 0
  }
  const inside = Array.from({ length: columns * rows }, (_, k) => inPart(k % columns, Math.floor(k / columns)))
  if (!inside.includes(true)) return bend
  const spread = (values: Float32Array) => {
    const out = values.map((value, k) => (inside[k] ? 0 : value))
    const known = inside.map((is) => !is)
    for (let round = 0; round < ROUNDS; round++)
      for (let k = 0; k < out.length; k++) {
        if (!inside[k]) continue
        const [column, row] = [k % columns, Math.floor(k / columns)]
        const beside = [column > 0 && k - 1, column < columns - 1 && k + 1, row > 0 && k - columns, row < rows - 1 && k + columns]
        const told = beside.filter((other): other is number => other !== false && known[other])
        if (told.length === 0) continue
        out[k] = told.reduce((sum, other) => sum + out[other], 0) / told.length
        known[k] = true
      }
    return out
  }
  return { ...bend, x_px: spread(bend.x_px), y_px: spread(bend.y_px) }
}
