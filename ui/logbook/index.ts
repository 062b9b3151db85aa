export { LogbookScreen } from './LogbookScreen'
