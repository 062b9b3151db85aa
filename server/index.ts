export { closeContext, context, openContext, type Context } from './context'
export { cardPdf } from './card'
export { readEnvironment, type Environment } from './environment'
export {
  colouredDepth,
  colouredSourceMap,
  depthArea,
  frameArea,
  frameAreaSamples,
  linesThrough,
  proofMap,
  proofPicture,
  walkOver,
  sourceAt,
  thumbnail,
  zoomPyramid,
} from './pictures'
export { DELIVERIES, delivered, finishedFile, PICTURE_FORMATS, placesIn, registrationIn, renderOf, slugOf, type Delivery } from './renders'
export { framesToFuse, jobDetail, simulationOf } from './shoots'
export { begin } from './lifecycle'
