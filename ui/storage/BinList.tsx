'use client'

import { Button, Popconfirm } from 'antd'
import { dateText, storageText } from '@/core/units'
import type { BinItem, BinKind } from '@/schemas'
import { message } from '../messages'
import styles from './storage.module.css'
import { useEmptyBin, usePutBack } from './useStorage'

const KINDS: Record<BinKind, string> = { shoot: 'Shoot', run: 'Run', frame: 'Frame', render: 'Render' }

/** What was deleted, until it is deleted for good. */
export function BinList({ items }: { items: BinItem[] }) {
  const putBack = usePutBack()
  const empty = useEmptyBin()
  const onError = (error: Error) => void message.error(error.message)
  const bytes = items.reduce((sum, item) => sum + item.bytes, 0)
  return (
    <section aria-label="Bin" className={styles.bin}>
      <h2>Bin</h2>
      {items.length === 0 ? (
        <p className={styles.quiet}>The bin is empty. What you delete stays here for 30 days.</p>
      ) : (
        <>
          <ul className={styles.list}>
            {items.map(({ kind, id, title, bytes: size, until }) => (
              <li key={`${kind}-${id}`}>
                <span>
                  <strong>{KINDS[kind]}</strong> {title}, {storageText(size / 1e6)}. Deleted for good on {dateText(until)}.
                </span>
                <Button size="small" aria-label={`Put back ${title}`} onClick={() => putBack.mutate({ kind, id }, { onError })}>
                  Put back
                </Button>
              </li>
            ))}
          </ul>
          <Popconfirm
            title={`Delete ${items.length === 1 ? 'this' : `these ${items.length} things`} for good?`}
            description={`This frees ${storageText(bytes / 1e6)} and cannot be undone.`}
            okText="Delete for good"
            onConfirm={() => empty.mutate(undefined, { onError })}
          >
            <Button danger loading={empty.isPending}>
              Empty the bin
            </Button>
          </Popconfirm>
        </>
      )}
    </section>
  )
}
