export { cardPdf } from './cardPdf'
export { contactPdf } from './contactPdf'
export { contactOf, recordOf } from './gather'
export { recordPdf } from './recordPdf'
