export { mellow } from './mellow'
