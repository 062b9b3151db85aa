export { runEngine } from './engine'
export { fuseJob } from './fuseJob'
export { JobQueue } from './queue'
export { shootJob } from './shootJob'
