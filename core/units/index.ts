export {
  apertureText,
  clockText,
  dateText,
  durationText,
  exposureText,
  lengthText,
  momentText,
  placeText,
  significant,
  storageText,
  type UnitSystem,
} from './format'
export { inchesText, MM_PER_INCH, parseLength_mm, type LengthUnit } from './inches'
export { parseNumber } from './number'
