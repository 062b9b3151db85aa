import { closeContext } from './context'

/** However long something takes to end, the application is gone after this. */
const MOST_ms = 5000

/** Ends the application on a signal: streams, jobs and devices first, so that nothing holds it open. */
export function endOnSignals(): void {
  let ending = false
  const end = (signal: NodeJS.Signals) => {
    if (ending) return
    ending = true
    setTimeout(() => process.exit(1), MOST_ms).unref()
    closeContext()
      .catch((error: Error) => console.error(error.message))
      .finally(() => process.exit(signal === 'SIGINT' ? 130 : 0))
  }
  process.on('SIGINT', end)
  process.on('SIGTERM', end)
}
