export { Guide } from './Guide'
export { Offer } from './Offer'
