export { brightestOf, developmentFrom, neutralMultipliers, type Development, type NeutralPlace } from './development'
export { toWide } from './toWide'
