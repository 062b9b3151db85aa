export { axisOf, INSET, subjectEnds } from './axis'
export { DepthRibbon } from './DepthRibbon'
export { placeLabels } from './labels'
export { useWidth } from './useWidth'
