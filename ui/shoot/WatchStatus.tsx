'use client'

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Alert, Button } from 'antd'
import { useEffect } from 'react'
import type { WatchDetail } from '@/schemas'
import { fetchJson, send } from '../api'
import { message } from '../messages'
import styles from './shoot.module.css'

const ASK_AGAIN_ms = 1500

/** A folder that frames come from by themselves: how many have, which could not be taken, and how to stop. */
export function WatchStatus({ shootId }: { shootId: number }) {
  const client = useQueryClient()
  const key = ['watch', shootId]
  const { data } = useQuery({
    queryKey: key,
    queryFn: () => fetchJson<{ watch: WatchDetail | null }>(`/api/shoots/${shootId}/watch`),
    refetchInterval: ({ state }) => (state.data?.watch && !state.data.watch.ended ? ASK_AGAIN_ms : false),
  })
  const stop = useMutation({
    mutationFn: () => send(`/api/shoots/${shootId}/watch`, 'DELETE'),
    onError: (error) => message.error(error.message),
    onSettled: () => client.invalidateQueries({ queryKey: key }),
  })
  const watch = data?.watch
  const taken = watch?.taken
  useEffect(() => {
    if (taken) void client.invalidateQueries({ queryKey: ['shoot', shootId] })
  }, [taken, client, shootId])
  if (!watch) return null
  return (
    <section aria-label="Watched folder" className={styles.watch}>
      {watch.ended ? (
        <Alert type="error" showIcon title={watch.ended.text} />
      ) : (
        <p role="status">
          Watching <strong>{watch.folder}</strong>:{' '}
          {watch.taken === 0 ? 'no frame yet. New ones enter this shoot by themselves.' : `${watch.taken} frames taken.`}
        </p>
      )}
      {watch.refused.map(({ name, text }) => (
        <Alert key={name} type="warning" showIcon title={text} />
      ))}
      <Button loading={stop.isPending} onClick={() => stop.mutate()}>
        {watch.ended ? 'Close' : 'Stop watching'}
      </Button>
    </section>
  )
}
