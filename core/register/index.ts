export { registerPair, prepare, type PairMotion, type Prepared } from './pair'
export { SeriesRegistrar, reconcile, type Link, type SeriesRegistration } from './series'
