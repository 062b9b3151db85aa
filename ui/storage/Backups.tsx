'use client'

import { Button, Popconfirm, Upload } from 'antd'
import dynamic from 'next/dynamic'
import { useState } from 'react'
import { momentText, storageText } from '@/core/units'
import type { StorageDetail } from '@/schemas'
import { message } from '../messages'
import { fetchFile } from '../save'
import styles from './storage.module.css'
import { useBackup, useRemoveBackup, useRestore } from './useStorage'

const OneShootBackup = dynamic(() => import('./OneShootBackup').then((part) => part.OneShootBackup), { ssr: false })

/** Everything in one archive, to be kept elsewhere; and the way back. */
export function Backups({ backups }: Pick<StorageDetail, 'backups'>) {
  const backup = useBackup()
  const [choosing, setChoosing] = useState(false)
  const remove = useRemoveBackup()
  const restore = useRestore()
  const onError = (error: Error) => void message.error(error.message)
  return (
    <section aria-label="Backups">
      <h2>Backups</h2>
      <p className={styles.quiet}>A backup holds plans, kit, logs, originals and renders in one ZIP file. Keep it on another disk.</p>
      <ul className={styles.list}>
        {backups.map(({ name, bytes, made_at }) => (
          <li key={name}>
            <span>
              <strong>{name}</strong> {storageText(bytes / 1e6)}, {momentText(made_at)}
            </span>
            <span className={styles.buttons}>
              <Button size="small" onClick={() => fetchFile(`/api/storage/backups/${encodeURIComponent(name)}`)}>
                Save a copy
              </Button>
              <Popconfirm title={`Delete ${name}?`} okText="Delete" onConfirm={() => remove.mutate(name, { onError })}>
                <Button size="small" aria-label={`Delete ${name}`}>
                  Delete
                </Button>
              </Popconfirm>
            </span>
          </li>
        ))}
      </ul>
      <div className={styles.buttons}>
        <Button type="primary" loading={backup.isPending} onClick={() => backup.mutate(undefined, { onError })}>
          Make a backup
        </Button>
        <Button disabled={backup.isPending} onClick={() => setChoosing(true)}>
          Back up one shoot
        </Button>
        <Upload accept=".zip" showUploadList={false} customRequest={({ file }) => restore.mutate(file as File, { onError })}>
          <Button loading={restore.isPending}>Restore from a file</Button>
        </Upload>
      </div>
      <p className={styles.quiet}>Restoring adds what is missing here. Nothing that is here is changed.</p>
      {choosing && <OneShootBackup onMake={(shoot) => backup.mutate([shoot], { onError })} onClose={() => setChoosing(false)} />}
    </section>
  )
}
