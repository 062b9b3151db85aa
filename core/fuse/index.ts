import { auto } from './auto'
import { lace } from './lace'
import { mellow } from './mellow'
import type { StyleName } from './purposes'
import type { FusionStyle } from './style'
import { terrain } from './terrain'

export type { DepthMaps } from './focusMap'
export { PREFERENCES, type Preference, type Tuning } from './tuning'
export { fullSize, type GreyMap, type Range } from './fullSize'
export { evenedDepth, filledDepth, inMillimetres } from './relief'
export type { Accumulator, Fused, FusionStyle, HeldBack, SeriesFrame, SoFar } from './style'

export { STYLE_NAMES, STYLE_PURPOSES, USUAL_STYLE, type StyleName } from './purposes'

/** Every style by its name. The compiler finds one that is missing here. */
export const STYLES: Record<StyleName, FusionStyle> = { auto, lace, terrain, mellow }
