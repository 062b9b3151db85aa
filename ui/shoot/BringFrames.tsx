'use client'

import { App, Button, Input, Upload } from 'antd'
import { useRef, useState } from 'react'
import { fetchJson, send, useCommand } from '../api'
import styles from './shoot.module.css'

/** Brings the photographer's own frames into a run of their own: dropped files, or a folder of the server's machine. */
export function BringFrames({ shootId }: { shootId: number }) {
  const { message } = App.useApp()
  const [folder, setFolder] = useState('')
  // Files dropped together arrive one by one and belong to one run.
  const run = useRef<Promise<number> | undefined>(undefined)
  const newRun = () => send<{ id: number }>(`/api/shoots/${shootId}/runs`, 'POST').then(({ id }) => id)
  const upload = useCommand(shootId, async (file: File) => {
    const runId = await (run.current ??= newRun())
    await fetchJson(`/api/runs/${runId}/frames?name=${encodeURIComponent(file.name)}`, { method: 'PUT', body: file })
  })
  const importFolder = useCommand(shootId, async (name: string) => {
    const { count } = await send<{ count: number }>(`/api/runs/${await newRun()}/folder`, 'POST', { folder: name })
    message.success(`${count} frames imported.`)
  })

  return (
    <div className={styles.bring}>
      <Upload.Dragger
        multiple
        accept=".jpg,.jpeg,.png,.tif,.tiff"
        beforeUpload={(file, files) => {
          if (file === files[0]) run.current = undefined
          return true
        }}
        customRequest={({ file, onSuccess, onError }) =>
          upload.mutate(file as File, { onSuccess: () => onSuccess?.({}), onError: (error) => onError?.(error) })
        }
        onChange={({ file }) => {
          if (file.status === 'error') message.error((file.error as Error).message)
        }}
        showUploadList={{ showRemoveIcon: false }}
      >
        <p className={styles.drop}>Drop frames here, or click to choose them</p>
        <p className={styles.quiet}>JPEG, PNG or TIFF, 8 or 16 bit; the originals are kept untouched</p>
      </Upload.Dragger>
      <form
        className={styles.folder}
        onSubmit={(event) => {
          event.preventDefault()
          importFolder.mutate(folder, { onError: (error) => message.error(error.message) })
        }}
      >
        <label htmlFor="folder">Or a folder on this machine, inside the import folder</label>
        <div className={styles.row}>
          <Input id="folder" value={folder} onChange={(e) => setFolder(e.target.value)} placeholder="for instance card-3/nib" />
          <Button htmlType="submit" loading={importFolder.isPending}>
            Import
          </Button>
        </div>
      </form>
    </div>
  )
}
