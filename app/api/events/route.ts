import { jobDetail } from '@/server'
import { respond } from '../respond'

export const dynamic = 'force-dynamic'

/** Server-sent events: every change of a job about everything. */
export const GET = (request: Request) =>
  respond(async ({ jobs, streams }) =>
    streams.events((send) => {
      const onJob = (job: Parameters<typeof jobDetail>[0]) => job.shoot_id === null && send(jobDetail(job))
      jobs.events.on('any', onJob)
      return () => jobs.events.off('any', onJob)
    }, request.signal),
  )
