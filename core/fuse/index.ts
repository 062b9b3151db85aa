import { auto } from './auto'
import { lace } from './lace'
import { mellow } from './mellow'
import type { FusionStyle } from './style'
import { terrain } from './terrain'

export { fullSize, type DepthMaps, type GreyMap, type Range } from './focusMap'
export { evenedDepth, filledDepth, inMillimetres } from './relief'
export type { Accumulator, Fused, FusionStyle, SeriesFrame, SoFar } from './style'

/** Every style by its name, the usual one first. */
export const STYLES: Record<string, FusionStyle> = Object.fromEntries([auto, lace, terrain, mellow].map((style) => [style.name, style]))
export const USUAL_STYLE = auto.name
