export { Benches } from './benches'
