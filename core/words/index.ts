export { isRefusal, refusal, Refusal, say, sayer, type Code, type Facts, type Sentence } from './say'
