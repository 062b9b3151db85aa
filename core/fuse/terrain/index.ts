export { terrain } from './terrain'
