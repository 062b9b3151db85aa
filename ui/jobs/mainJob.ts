import type { JobDetail } from '@/schemas'

/** Whether a job waits or runs. */
export const isOn = ({ state }: JobDetail) => state === 'queued' || state === 'running'

/** The job of a shoot that its screens show: the newest shooting or fusing. */
export function mainJob(jobs: JobDetail[]): JobDetail | undefined {
  return jobs.find(({ kind }) => kind === 'shoot' || kind === 'fuse')
}

/** Whether a shoot is being worked on in a way that nothing else should begin. */
export function isBusy(jobs: JobDetail[]): boolean {
  return jobs.some((job) => isOn(job) && ['shoot', 'fuse', 'split'].includes(job.kind))
}
