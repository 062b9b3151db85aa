export { closeContext, context, openContext, type Context } from './context'
export { captionFactsOf } from './captionFacts'
export { cardFile } from './cardFile'
export { cardPdf, contactOf, contactPdf, recordOf, recordPdf, sheetPdf } from './papers'
export { readEnvironment, type Environment } from './environment'
export {
  cardIn,
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
export { finishedFile, KEPT_FILES, keptFile, lookFile, neededIn, placesIn, registrationIn, renderOf, slugOf, type KeptFile } from './renders'
export { renderDetail, renderPage } from './renderPage'
export { framesToFuse, jobDetail, simulationOf } from './shoots'
export { madeForOf, surfaceFactsOf } from './surface'
export { begin } from './lifecycle'
