export { colouredDepth, colouredSourceMap, frameArea, thumbnail, zoomPyramid } from './derived'
export { plainName, storedName } from './names'
export { PictureStore, type FolderImport } from './store'
