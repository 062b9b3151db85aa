export { PlanScreen } from './PlanScreen'
export { useStoredPlan } from './useStoredPlan'
export { verdictOf } from './verdict'
