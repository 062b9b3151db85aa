export type { CameraSetup } from './camera'
export { SCENES } from './scenes'
export { SimulatedSeries, type SeriesRequest, type SimulatedFrame } from './series'
