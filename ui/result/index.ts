export { ResultScreen } from './ResultScreen'
