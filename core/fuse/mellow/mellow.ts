import { BandAccumulator } from '../bands'
import type { FusionStyle } from '../style'

/** Mellow: wide neighbourhoods and soft decisions, so that more frames are averaged. For smooth tones and little light. */
export const mellow: FusionStyle = {
  name: 'mellow',
  create: (options) => new BandAccumulator(options, { by: 'band', smoothings: 2, decision: 3, coarserShare: 0.1 }),
}
