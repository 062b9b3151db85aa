export { PhoneScreen } from './PhoneScreen'
