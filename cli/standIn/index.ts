export { addStandIn } from './standIn'
