export { mergedFile, type Merged } from './captures'
export { RawReader } from './rawReader'
export type { RawFacts } from './thread'
export { writeRaw } from './writeRaw'
