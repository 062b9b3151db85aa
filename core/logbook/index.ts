export { logCsv } from './csv'
export { depthFound, neededOverlap, strideOf, type FoundDepth, type LogEntry, type Stride } from './entry'
