import type { JobDetail } from '@/schemas'

interface Listener {
  onJob(job: JobDetail): void
  /** The stream (re)connected: anything may have changed before. */
  onOpen(): void
}

type Message = { job: JobDetail } | 'open'

const NAME = 'nitidus-jobs'
const REOPEN_ms = 3000

const listeners = new Set<Listener>()
let stop: (() => void) | undefined

/**
 * Listens to every change of every job. A browser allows six connections to one address (HTTP/1.1), so all tabs share one stream: the tab
 * that holds a lock reads it and passes it on; when that tab closes, another gets the lock. Returns a function that ends listening.
 */
export function listenToJobs(listener: Listener): () => void {
  listeners.add(listener)
  stop ??= start()
  return () => {
    listeners.delete(listener)
    if (listeners.size > 0) return
    stop?.()
    stop = undefined
  }
}

function start(): () => void {
  const channel = new BroadcastChannel(NAME)
  channel.onmessage = ({ data }: MessageEvent<Message>) => deliver(data)
  const ended = new AbortController()
  const lead = () =>
    readStream((message) => {
      deliver(message)
      channel.postMessage(message)
    }, ended.signal)
  // Without a secure context there are no locks; then each tab reads a stream.
  if (navigator.locks) navigator.locks.request(NAME, { signal: ended.signal }, lead).catch(() => undefined)
  else void lead()
  return () => {
    ended.abort()
    channel.close()
  }
}

/** Reads the stream until `signal`. The browser reconnects after a lost connection, but not after an answer that is no stream. */
function readStream(pass: (message: Message) => void, signal: AbortSignal): Promise<void> {
  return new Promise((resolve) => {
    let events: EventSource
    let again: ReturnType<typeof setTimeout> | undefined
    const open = () => {
      events = new EventSource('/api/events')
      events.onopen = () => pass('open')
      events.onmessage = ({ data }) => pass({ job: JSON.parse(data) as JobDetail })
      events.onerror = () => {
        if (events.readyState === EventSource.CLOSED) again = setTimeout(open, REOPEN_ms)
      }
    }
    open()
    signal.addEventListener('abort', () => {
      clearTimeout(again)
      events.close()
      resolve()
    })
  })
}

function deliver(message: Message): void {
  for (const listener of listeners)
    if (message === 'open') listener.onOpen()
    else listener.onJob(message.job)
}
