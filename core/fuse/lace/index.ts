export { lace } from './lace'
