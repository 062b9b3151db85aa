export { DepthRibbon } from './DepthRibbon'
