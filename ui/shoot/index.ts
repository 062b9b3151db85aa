export { ShootScreen } from './ShootScreen'
