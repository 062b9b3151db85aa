export { runEngine } from './engine'
export { JobQueue, type JobSubject } from './queue'
