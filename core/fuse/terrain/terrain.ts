import { BandAccumulator } from '../bands'
import type { FusionStyle } from '../style'

/** Terrain: one depth a place, from the finest bands together. For surfaces without crossing parts; the cleanest edges. */
export const terrain: FusionStyle = {
  name: 'terrain',
  create: (options) => new BandAccumulator(options, { by: 'surface', bands: 2, smoothings: 1, decision: 6 }),
}
