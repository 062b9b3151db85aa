import { auto } from './auto'
import { lace } from './lace'
import { mellow } from './mellow'
import type { FusionStyle } from './style'
import { terrain } from './terrain'

export type { DepthMaps } from './focusMap'
export { fullSize, type GreyMap, type Range } from './fullSize'
export { evenedDepth, filledDepth, inMillimetres } from './relief'
export type { Accumulator, Fused, FusionStyle, SeriesFrame, SoFar } from './style'

/** Every style by its name, the usual one first. */
export const STYLES: Record<string, FusionStyle> = Object.fromEntries([auto, lace, terrain, mellow].map((style) => [style.name, style]))
export const USUAL_STYLE = auto.name
