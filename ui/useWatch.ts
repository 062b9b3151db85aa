import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import type { WatchDetail } from '@/schemas'
import { fetchJson } from './api'

const ASK_AGAIN_ms = 1500

export const watchKey = (shootId: number) => ['watch', shootId]

/** The folder that frames of a shoot come from by themselves, if any is watched; each frame that comes has the shoot read again. */
export function useWatch(shootId: number): WatchDetail | null | undefined {
  const client = useQueryClient()
  const { data } = useQuery({
    queryKey: watchKey(shootId),
    queryFn: () => fetchJson<{ watch: WatchDetail | null }>(`/api/shoots/${shootId}/watch`),
    refetchInterval: ({ state }) => (state.data?.watch && !state.data.watch.ended ? ASK_AGAIN_ms : false),
  })
  const taken = data?.watch?.taken
  useEffect(() => {
    if (taken) void client.invalidateQueries({ queryKey: ['shoot', shootId] })
  }, [taken, client, shootId])
  return data?.watch
}
