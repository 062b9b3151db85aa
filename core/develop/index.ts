export { brightestOf, developmentFrom, type Development } from './development'
export { toWide } from './toWide'
