import { useCallback, useState } from 'react'
import type { DeviceCall, DeviceReply } from '@/schemas'
import { send } from '../api'

/** The simulated devices of a shoot: what they last answered, and the way to ask them. */
export function useDevices(shootId: number) {
  const [reply, setReply] = useState<DeviceReply>()
  const ask = useCallback(
    async (call: DeviceCall) => {
      const answer = await send<DeviceReply>(`/api/shoots/${shootId}/devices`, 'POST', call)
      setReply((before) => ({ ...before, ...answer }))
      return answer
    },
    [shootId],
  )
  const forget = useCallback(() => setReply(undefined), [])
  return { reply, ask, forget, on: reply !== undefined }
}

export type Devices = ReturnType<typeof useDevices>
