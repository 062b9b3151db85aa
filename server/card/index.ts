export { cardPdf } from './cardPdf'
