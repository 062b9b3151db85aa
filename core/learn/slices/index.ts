export { blurStepOf, type BlurStep } from './blurStep'
