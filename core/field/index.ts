export { mergeLogs, runsOf, type FieldEntry, type FieldEvent, type LoggedRun } from './log'
export { phasesOf, type Phase } from './pace'
export { reshootList, type Reshoot } from './reshoot'
export { fieldProgress, type FieldGap, type FieldProgress, type FieldRow } from './progress'
