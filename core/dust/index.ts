export { DUST_WIDTH_px, DustFinder, type FoundDust, type Speck } from './finder'
export { liesIn, withoutDust } from './clean'
