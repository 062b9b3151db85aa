'use client'

import { Alert, Button } from 'antd'
import { Shell } from '@/ui/shell/Shell'

/** What stands where a screen broke: the way back, and on. */
export default function ScreenBroke({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <Shell>
      <Alert
        type="error"
        showIcon
        title="This screen could not be shown."
        description={`Nothing you stored is lost. ${error.message}`}
        action={<Button onClick={reset}>Try again</Button>}
      />
    </Shell>
  )
}
