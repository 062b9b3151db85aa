export { DeliverScreen } from './DeliverScreen'
