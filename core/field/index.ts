export { mergeLogs, newestRun, runBegunBy, type FieldEntry, type FieldEvent } from './log'
export { phasesOf, type Phase } from './pace'
export { reshootList, type Reshoot } from './reshoot'
export { fieldProgress, type FieldGap, type FieldProgress, type TakenFrame } from './progress'
