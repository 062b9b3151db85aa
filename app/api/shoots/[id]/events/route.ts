import { jobDetail } from '@/server'
import { idOf, respond } from '../../../respond'

export const dynamic = 'force-dynamic'

/** Server-sent events: every change of a job of this shoot. */
export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  respond(async ({ jobs }) => {
    const channel = `shoot-${await idOf(params)}`
    const encoder = new TextEncoder()
    let stop = () => {}
    const stream = new ReadableStream({
      start(controller) {
        const send = (text: string) => controller.enqueue(encoder.encode(text))
        const onJob = (job: Parameters<typeof jobDetail>[0]) => send(`data: ${JSON.stringify(jobDetail(job))}\n\n`)
        const beat = setInterval(() => send(': still here\n\n'), 20_000)
        jobs.events.on(channel, onJob)
        stop = () => {
          clearInterval(beat)
          jobs.events.off(channel, onJob)
        }
        request.signal.addEventListener('abort', stop)
        send(': open\n\n')
      },
      cancel: () => stop(),
    })
    return new Response(stream, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-cache, no-transform' } })
  })
