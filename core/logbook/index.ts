export { logCsv } from './csv'
export { neededOverlap, strideOf, type LogEntry, type Stride } from './entry'
