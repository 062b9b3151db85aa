import type { JobDetail, JobKind } from '@/schemas'

/** What jobs are called. */
export const JOB_NAMES: Record<JobKind, string> = {
  shoot: 'Simulated camera',
  fuse: 'Fusing',
  inspect: 'Looking the picture over',
  needed: 'Fusing from fewer frames',
  mend: 'Mending',
  finish: 'Finishing',
  take: 'Writing what is taken along',
  survey: 'Checking the run',
  split: 'Splitting into series',
  measure: 'Measuring the printed sheet',
  check: 'Checking all files',
  backup: 'Making a backup',
  restore: 'Restoring a backup',
}

const STAGES: Record<string, string> = {
  scene: 'building the scene',
  frame: 'shooting frame',
  develop: 'developing raw frame',
  register: 'registering frame',
  fuse: 'fusing frame',
  twice: 'fusing twice, frame',
  needed: 'fusing frame',
  encode: 'writing the picture',
  mend: 'painting from',
  finish: 'carrying out the recipe',
  layers: 'laying frame',
  take: 'writing frame',
  inspect: 'comparing frame',
  survey: 'frame',
  split: 'frame',
  captures: 'looking for captures of one frame',
  measure: 'frame',
  read: 'reading the picture',
  write: 'writing the picture',
  check: 'file',
  backup: 'file',
  verify: 'checking the backup, file',
  extract: 'restoring file',
}

/** How far a job is, in words. */
export function stageText({ state, progress }: JobDetail): string {
  if (state === 'queued') return 'waiting for another job'
  if (!progress) return 'starting'
  const stage = STAGES[progress.stage] ?? progress.stage
  return /(frame|file)$/.test(stage) ? `${stage} ${progress.frame} of ${progress.of}` : stage
}

/** Registering is about the first half of a render, fusing the second. */
export function percentOf({ kind, progress }: JobDetail): number {
  if (!progress || progress.of === 0) return 0
  const part = progress.frame / progress.of
  // Developing comes first, and counts for itself.
  if (kind !== 'fuse' || progress.stage === 'develop') return 100 * part
  return { register: 45 * part, fuse: 45 + 50 * part, twice: 45 + 50 * part, encode: 97 }[progress.stage] ?? 100
}
