'use client'

import { useMutation, useQueryClient } from '@tanstack/react-query'
import { Alert, Button } from 'antd'
import { useEffect } from 'react'
import { send } from '../api'
import { message } from '../messages'
import { ImportProgress } from './ImportProgress'
import { importKey, useImport } from './useImport'
import styles from './shoot.module.css'

/** While many frames come the shoot is not read again for each. */
const READ_EVERY = 25

/** A folder that is being imported: how far it is, how long the rest takes, which files could not be taken; it can rest, and be stopped. */
export function ImportStatus({ shootId }: { shootId: number }) {
  const client = useQueryClient()
  const found = useImport(shootId)
  const [taken, ended] = [found?.taken ?? 0, found?.ended !== null && found !== undefined]
  const some = taken < READ_EVERY ? taken : Math.floor(taken / READ_EVERY) * READ_EVERY
  useEffect(() => {
    if (some > 0 || ended) void client.invalidateQueries({ queryKey: ['shoot', shootId] })
  }, [some, ended, client, shootId])
  const command = useMutation({
    mutationFn: (paused: boolean | undefined) =>
      paused === undefined ? send(`/api/shoots/${shootId}/import`, 'DELETE') : send(`/api/shoots/${shootId}/import`, 'PUT', { paused }),
    onError: (error) => message.error(error.message),
    onSettled: () => client.invalidateQueries({ queryKey: importKey(shootId) }),
  })
  // What went well throughout is said once.
  const well = found?.ended?.code === 'import.done' && found.refusedCount === 0
  const { mutate } = command
  const said = found?.ended?.text ?? ''
  useEffect(() => {
    if (!well) return
    message.success(said)
    mutate(undefined)
  }, [well, said, mutate])
  if (!found || well) return null
  const { folder, total, refusedCount, refused, paused, pace } = found
  return (
    <section aria-label="Imported folder" className={styles.watch}>
      {found.ended && found.ended.code !== 'import.done' && <Alert type="error" showIcon title={found.ended.text} />}
      {found.ended?.code === 'import.done' && <p>{found.ended.text}</p>}
      {!found.ended && (
        <ImportProgress
          what={folder}
          total={total}
          through={taken + refusedCount}
          paused={paused}
          pace={pace}
          onPause={(rest) => command.mutate(rest)}
        >
          <Button loading={command.isPending} onClick={() => command.mutate(undefined)}>
            Stop importing
          </Button>
        </ImportProgress>
      )}
      {refused.map(({ name, text }) => (
        <Alert key={name} type="warning" showIcon title={text} />
      ))}
      {refusedCount > refused.length && <p>and {refusedCount - refused.length} more</p>}
      {found.ended && (
        <Button loading={command.isPending} onClick={() => command.mutate(undefined)}>
          Close
        </Button>
      )}
    </section>
  )
}
