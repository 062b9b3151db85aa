import type { StyleName } from '../fuse/purposes'
import type { Rectangle } from '../raster'

/** What may be wrong with a place of a fused picture. */
export const PLACE_KINDS = ['ghost', 'halo', 'soft', 'neverSharp', 'crossing', 'dust', 'edge', 'clipped'] as const
export type PlaceKind = (typeof PLACE_KINDS)[number]

/** What would mend a place: one frame, another style, or healing. */
export type Suggestion = { frame: string } | { style: StyleName } | { heal: true }

/** A place worth a look, in px of the fused picture. */
export interface Place extends Rectangle {
  kind: PlaceKind
  /** 0 … 1; above a half it is likely to be seen. */
  severity: number
  text: string
  suggestion: Suggestion | null
}

/** A place found in cells, before it is put into words. */
export interface Finding {
  cells: Rectangle
  kind: PlaceKind
  severity: number
  /** Frames it is about, as indices. */
  frames: number[]
  suggestion: { frame: number } | { style: StyleName } | { heal: true } | null
}
