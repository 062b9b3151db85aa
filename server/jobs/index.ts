export { runEngine } from './engine'
export { BENDS, fuseJob } from './fuseJob'
export { JobQueue } from './queue'
export { shootJob } from './shootJob'
