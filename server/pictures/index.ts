export { colouredDepth, colouredSourceMap, frameArea, thumbnail, zoomPyramid } from './derived'
export { Folders, safeName } from './folders'
export { fullDisk, PictureStore } from './store'
