export { readFacts, readPicture, verifyPicture, type PictureFacts } from './readPicture'
export { encode, formatOf, writeGrey, writePicture, writeWhole, type PictureFormat } from './writePicture'
