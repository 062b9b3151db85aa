export { RunCardScreen } from './RunCardScreen'
