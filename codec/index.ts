export { exifFields, readExif } from './exif'
export { readFacts, readPicture, readSamples, verifyPicture, type PictureFacts } from './readPicture'
export { formatOf, type PictureFormat } from './format'
export { encode, screenJpeg, writeGrey, writePicture, writeWhole } from './writePicture'
