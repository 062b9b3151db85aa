'use client'

import { Shell } from '@/ui/shell/Shell'

/** What stands where a screen broke: the way back, and on. */
export default function ScreenBroke({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <Shell>
      <div role="alert">
        <h1>This screen could not be shown.</h1>
        <p>Nothing you stored is lost. {error.message}</p>
        <button type="button" onClick={reset}>
          Try again
        </button>
      </div>
    </Shell>
  )
}
