export { JobProgress } from './JobProgress'
