export { bendFrom, bendsFile, type BendsFile } from './bends'
export { dngFile, MOSAIC, type Preview, type RawPicture } from './dng'
export { exifBlock, exifEntries, EXIF_DIRECTORY, mainEntries, type TakenWith } from './exif'
export {
  gammaCurve,
  greyAsRgb,
  greyProfile,
  matrixProfile,
  P3_PRIMARIES,
  profileLight,
  profileName,
  profileSpace,
  type Primaries,
  SRGB_CURVE,
  SRGB_PRIMARIES,
  SRGB_PROFILE,
  WIDE_PRIMARIES,
  type ProfileSpace,
} from './iccProfile'
export { columns, inverse, product, times, type Rows } from './matrix'
export { jpegDataFit } from './jpegScan'
export { asciiEntry, directoryBytes, longEntry, UNDEFINED, type DirectoryEntry } from './tiffDirectory'
