export { connect, now, type Database } from './connect'
export type { Frame, Job, Run, Shoot } from './tables'
