'use client'

import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Alert, Button } from 'antd'
import { send } from '../api'
import { message } from '../messages'
import { useWatch, watchKey } from '../useWatch'
import styles from './shoot.module.css'

/** A folder that frames come from by themselves: how many have, which could not be taken, and how to stop. */
export function WatchStatus({ shootId }: { shootId: number }) {
  const client = useQueryClient()
  const watch = useWatch(shootId)
  const stop = useMutation({
    mutationFn: () => send(`/api/shoots/${shootId}/watch`, 'DELETE'),
    onError: (error) => message.error(error.message),
    onSettled: () => client.invalidateQueries({ queryKey: watchKey(shootId) }),
  })
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
