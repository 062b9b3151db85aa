export { LAN_PORT, lanOf, type Lan } from './addresses'
export { Pairing } from './pairing'
