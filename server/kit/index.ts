export { KitStore } from './kitStore'
