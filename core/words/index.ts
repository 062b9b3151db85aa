export { isRefusal, refusal, Refusal, say, type Code, type Facts, type Sentence } from './say'
