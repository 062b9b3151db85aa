export { framesOfRun, framesToFuse, usedFrames } from './framesToFuse'
export { jobDetail, Shoots } from './shoots'
export { simulationOf } from './simulation'
