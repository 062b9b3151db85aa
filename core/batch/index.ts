export { sortBySize, type SizedName } from './sortBySize'
