export { depthArea, linesThrough, walkOver } from './depths'
export { colouredDepth, colouredSourceMap, frameArea, frameAreaSamples, sourceAt, thumbnail, zoomPyramid } from './derived'
export { plainName, storedName } from './names'
export { PictureStore, type FolderImport } from './store'
