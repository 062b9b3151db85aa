export { ReliefTable } from './ReliefTable'
