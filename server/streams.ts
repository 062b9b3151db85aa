/** Answers that go on for as long as somebody listens; all of them end when the application does. */
export class Streams {
  private readonly open = new Set<() => void>()

  /**
   * Server-sent events. `listen` is handed a way to send and answers how to stop; comments in between keep the connection alive.
   * The stream ends with `signal`, when nobody reads it any more, or with the application.
   */
  events(listen: (send: (data: unknown) => void) => () => void, signal: AbortSignal): Response {
    const encoder = new TextEncoder()
    let stop = () => {}
    const stream = new ReadableStream({
      start: (controller) => {
        const send = (text: string) => controller.enqueue(encoder.encode(text))
        const beat = setInterval(() => send(': still here\n\n'), 20_000)
        const forget = listen((data) => send(`data: ${JSON.stringify(data)}\n\n`))
        let ended = false
        stop = () => {
          if (ended) return
          ended = true
          clearInterval(beat)
          forget()
          this.open.delete(stop)
          try {
            controller.close()
          } catch {
            // The reader was gone first.
          }
        }
        this.open.add(stop)
        signal.addEventListener('abort', stop)
        send(': open\n\n')
      },
      cancel: () => stop(),
    })
    return new Response(stream, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-cache, no-transform' } })
  }

  end(): void {
    for (const stop of [...this.open]) stop()
  }
}
