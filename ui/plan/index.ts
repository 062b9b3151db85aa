export { PlanScreen } from './PlanScreen'
export { useStoredPlan } from './useStoredPlan'
