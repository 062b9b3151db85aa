export { FieldScreen } from './FieldScreen'
export { ServiceWorker } from './ServiceWorker'
