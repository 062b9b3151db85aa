export { JobProgress } from './JobProgress'
export { isBusy, isOn, mainJob } from './mainJob'
export { stageText } from './stages'
export { useOpenWhenFused } from './useOpenWhenFused'
