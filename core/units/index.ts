export { inchesText, MM_PER_INCH, parseLength_mm } from './inches'
