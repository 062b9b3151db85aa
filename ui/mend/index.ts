export { MendScreen } from './MendScreen'
