export { meshOf, objOf, plyOf, type Mesh } from './relief'
