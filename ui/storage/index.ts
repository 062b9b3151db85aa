export { StorageScreen } from './StorageScreen'
