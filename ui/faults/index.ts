export { FaultSelect } from './FaultSelect'
