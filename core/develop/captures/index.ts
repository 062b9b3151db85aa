export { findSets, type CaptureSets } from './findSets'
export { latticeOf, type Lattice } from './lattice'
export { CaptureMerger, type Merging } from './merger'
export { OffsetMeter, type Offset } from './offsets'
