export { NumberInput } from './NumberInput'
