import { isRefusal } from '@/core/words'
import { closeContext, context } from './context'

/** However long something takes to end, the application is gone after this. */
const MOST_ms = 5000

/** Begins with the application: opens its data, and ends with it. */
export async function begin(): Promise<void> {
  endOnSignals()
  try {
    await context()
  } catch (error) {
    // The pages say the same, and what is wrong may be put right while the application runs; not a folder that is in use.
    console.error((error as Error).message)
    if (isRefusal(error) && error.code === 'data.inUse') process.exit(1)
  }
}

/** Ends the application on a signal: streams, jobs and devices first, so that nothing holds it open. */
function endOnSignals(): void {
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
