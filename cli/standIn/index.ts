export { standIn } from './standIn'
export { serveDarkroom } from './threads'
