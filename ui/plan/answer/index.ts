export { Answer } from './Answer'
