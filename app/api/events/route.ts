import { jobDetail } from '@/server'
import { respond } from '../respond'

export const dynamic = 'force-dynamic'

/** Server-sent events: every change of every job. */
export const GET = (request: Request) =>
  respond(async ({ jobs, streams }) =>
    streams.events((send) => {
      const onJob = (job: Parameters<typeof jobDetail>[0]) => send(jobDetail(job))
      jobs.events.on('any', onJob)
      return () => jobs.events.off('any', onJob)
    }, request.signal),
  )
