export { KitScreen } from './KitScreen'
