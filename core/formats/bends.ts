import type { Bend } from '../raster'

/** How the frames of a render were bent, as it is written: one net for all, and for each bent frame its nodes in px, row by row. */
export interface BendsFile {
  net?: Omit<Bend, 'x_px' | 'y_px'>
  frames: Record<string, { x_px: number[]; y_px: number[] }>
}

const rounded = (values: Float32Array) => Array.from(values, (value) => Number(value.toFixed(2)))

/** Bends by file name to what is written; there may be none. */
export function bendsFile(bends: Map<string, Bend>): BendsFile {
  const [first] = bends.values()
  if (!first) return { frames: {} }
  const { left_px, top_px, spacingX_px, spacingY_px, columns, rows } = first
  return {
    net: { left_px, top_px, spacingX_px, spacingY_px, columns, rows },
    frames: Object.fromEntries([...bends].map(([file, { x_px, y_px }]) => [file, { x_px: rounded(x_px), y_px: rounded(y_px) }])),
  }
}

/** The bend of a frame from what was written; nothing where it was not bent. */
export function bendFrom({ net, frames }: BendsFile, file: string): Bend | undefined {
  const bent = frames[file]
  return net && bent && { ...net, x_px: Float32Array.from(bent.x_px), y_px: Float32Array.from(bent.y_px) }
}
