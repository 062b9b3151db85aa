export { runEngine } from './engine'
export { JobQueue, type JobSubject } from './queue'
export type { FinishRequest } from './kinds/finish'
export type { TakeRequest } from './kinds/take'
