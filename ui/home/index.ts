export { HomeScreen } from './HomeScreen'
