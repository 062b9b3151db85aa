export { bendFrom, bendsFile, type BendsFile } from './bends'
export { meshOf, objOf, plyOf, type Mesh } from './relief'
