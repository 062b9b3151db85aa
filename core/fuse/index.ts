import { lace } from './lace'
import type { FusionStyle } from './style'

export type { Accumulator, Fused, FusionStyle, WarpedFrame } from './style'

/** Every style by its name. */
export const STYLES: Record<string, FusionStyle> = { [lace.name]: lace }
