export { addStandIn } from './standIn'
export { serveDarkroom } from './threads'
