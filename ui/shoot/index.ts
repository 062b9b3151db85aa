export { FramesFirstScreen } from './FramesFirstScreen'
export { ShootScreen } from './ShootScreen'
