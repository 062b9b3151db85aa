import { BandAccumulator } from '../bands'
import type { FusionStyle } from '../style'

/** Lace: every band decides by itself, in the smallest neighbourhood. For hair, bristles and lattices that cross one another. */
export const lace: FusionStyle = {
  name: 'lace',
  create: (options) => new BandAccumulator(options, { by: 'band', smoothings: 1, decision: 4, coarserShare: 0 }),
}
