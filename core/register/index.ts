export { registerPair, prepare, type PairMotion } from './pair'
export { SeriesRegistrar, reconcile, type Link, type SeriesRegistration } from './series'
