export { framesOfRun, framesToFuse } from './framesToFuse'
export { jobDetail, Shoots } from './shoots'
export { simulationOf } from './simulation'
