import { jobDetail } from '@/server'
import { idOf, respond } from '../../../respond'

export const dynamic = 'force-dynamic'

/** Server-sent events: every change of a job of this shoot. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ jobs, streams }) => {
    const channel = `shoot-${await idOf(params)}`
    return streams.events((send) => {
      const onJob = (job: Parameters<typeof jobDetail>[0]) => send(jobDetail(job))
      jobs.events.on(channel, onJob)
      return () => jobs.events.off(channel, onJob)
    }, request.signal)
  })
