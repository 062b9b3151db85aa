export type { Manifest } from './manifest'
export type { RestoreReport } from './mergeRecords'
export { restoreBackup, type RestoreProgress } from './restoreBackup'
export { writeBackup, type BackupProgress, type BackupRequest } from './writeBackup'
