export { brightestOf, developmentFrom, neutralMultipliers, type Development, type NeutralPlace } from './development'
export { toWide } from './toWide'
export { CaptureMerger, findSets, latticeOf, OffsetMeter, type CaptureSets, type Lattice, type Merging, type Offset } from './captures'
export { blendFull } from './blendFull'
