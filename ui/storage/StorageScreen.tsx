'use client'

import { Alert, Button, Popconfirm, Skeleton } from 'antd'
import { storageText } from '@/core/units'
import type { StorageDetail } from '@/schemas'
import { message } from '../messages'
import { Shell } from '../shell'
import { Backups } from './Backups'
import { BinList } from './BinList'
import { StorageJobs } from './StorageJobs'
import styles from './storage.module.css'
import { useCheckFiles, useFree, useStorage } from './useStorage'

/** What takes the room, what was deleted, and copies to keep elsewhere. */
export function StorageScreen() {
  const { data, error } = useStorage()
  return (
    <Shell>
      <h1 className={styles.title}>Storage</h1>
      {error && <Alert type="error" title={error.message} />}
      {!data && !error && <Skeleton active />}
      {data && (
        <>
          <StorageJobs jobs={data.jobs} />
          <div className={styles.columns}>
            <SpaceUsed detail={data} />
            <Backups backups={data.backups} />
          </div>
          <BinList items={data.bin} />
        </>
      )}
    </Shell>
  )
}

function SpaceUsed({ detail: { originals, renders, derived, backups, bin } }: { detail: StorageDetail }) {
  const free = useFree()
  const check = useCheckFiles()
  const onError = (error: Error) => void message.error(error.message)
  const binned = bin.reduce((sum, { bytes }) => sum + bytes, 0)
  const rows = [
    { what: 'Original frames', bytes: originals },
    { what: 'Renders', bytes: renders },
    { what: 'of these in the bin', bytes: binned, part: true },
    { what: 'Thumbnails, zoom tiles, developed and written files', bytes: derived },
    { what: 'Backups', bytes: backups.reduce((sum, { bytes }) => sum + bytes, 0) },
  ]
  return (
    <section aria-label="Disk space">
      <h2>Disk space</h2>
      <table className={styles.room}>
        <tbody>
          {rows.map(({ what, bytes, part }) => (
            <tr key={what} className={part ? styles.part : undefined}>
              <th scope="row">{what}</th>
              <td>{storageText(bytes / 1e6)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className={styles.buttons}>
        <Popconfirm
          title="Delete thumbnails, zoom tiles, developed raw frames and written files?"
          description="They are made again when they are needed."
          okText="Delete"
          onConfirm={() => free.mutate(undefined, { onError })}
        >
          <Button loading={free.isPending}>Free {storageText(derived / 1e6)}</Button>
        </Popconfirm>
        <Button loading={check.isPending} onClick={() => check.mutate(undefined, { onError })}>
          Check all frames
        </Button>
      </div>
      <p className={styles.quiet}>
        Thumbnails, tiles, developed raw frames and written files are made again when you need them. The check reads every original and compares it
        with its checksum.
      </p>
    </section>
  )
}
