import { BandAccumulator } from '../bands'
import type { FusionStyle } from '../style'

/** Auto: bands decide as in Lace, and listen to the coarser ones, so that they agree where the subject is continuous. */
export const auto: FusionStyle = {
  name: 'auto',
  create: (options) => new BandAccumulator(options, { by: 'band', smoothings: 1, decision: 4, coarserShare: 0.12 }),
}
