export { exifFields, readExif } from './exif'
export { readFacts, readPicture, readSamples, verifyPicture, type PictureFacts } from './readPicture'
export { encode, formatOf, screenJpeg, writeGrey, writePicture, writeWhole, type PictureFormat } from './writePicture'
