export { colouredSourceMap, thumbnail, zoomPyramid } from './derived'
export { readExif } from './exif'
export { Folders, safeName } from './folders'
export { fullDisk, PictureStore } from './store'
