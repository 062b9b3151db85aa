export { auto } from './auto'
