export { depthColour, depthCss, rampPlace } from './depthRamp'
