'use client'

import { Alert, Button, Input, Upload } from 'antd'
import { useRef, useState } from 'react'
import { message } from '../messages'
import { fetchJson, send, useCommand } from '../api'
import styles from './shoot.module.css'

/** What became of a folder's files. */
interface FolderImport {
  taken: number
  refused: { name: string; code: string; text: string }[]
}

/** What became of the files dropped together. */
interface Batch {
  total: number
  taken: number
  refused: string[]
}

/** Brings the photographer's own frames into a run of their own: dropped files, or a folder of the server's machine. */
export function BringFrames({ shootId }: { shootId: number }) {
  const [folder, setFolder] = useState('')
  const [batch, setBatch] = useState<Batch>({ total: 0, taken: 0, refused: [] })
  // Files dropped together arrive one by one and belong to one run.
  const run = useRef<Promise<number> | undefined>(undefined)
  const newRun = () => send<{ id: number }>(`/api/shoots/${shootId}/runs`, 'POST').then(({ id }) => id)
  const upload = useCommand(shootId, async (file: File) => {
    const runId = await (run.current ??= newRun())
    await fetchJson(`/api/runs/${runId}/frames?name=${encodeURIComponent(file.name)}`, { method: 'PUT', body: file })
  })
  const importFolder = useCommand(shootId, async (name: string) => {
    const { taken, refused } = await send<FolderImport>(`/api/runs/${await newRun()}/folder`, 'POST', { folder: name })
    setBatch({ total: taken + refused.length, taken, refused: refused.map(({ text }) => text) })
  })

  return (
    <div className={styles.bring}>
      <Upload.Dragger
        multiple
        accept=".jpg,.jpeg,.png,.tif,.tiff"
        showUploadList={false}
        beforeUpload={(file, files) => {
          if (file === files[0]) {
            run.current = undefined
            setBatch({ total: files.length, taken: 0, refused: [] })
          }
          return true
        }}
        customRequest={({ file, onSuccess, onError }) =>
          void upload.mutateAsync(file as File).then(
            () => {
              setBatch((batch) => ({ ...batch, taken: batch.taken + 1 }))
              onSuccess?.({})
            },
            (error: Error) => {
              setBatch((batch) => ({ ...batch, refused: [...batch.refused, error.message] }))
              onError?.(error)
            },
          )
        }
      >
        <p className={styles.drop}>Drop frames here, or click to choose them</p>
        <p className={styles.quiet}>JPEG, PNG or TIFF, 8 or 16 bit. The originals are kept untouched.</p>
      </Upload.Dragger>
      <BatchReport {...batch} />
      <form
        className={styles.folder}
        onSubmit={(event) => {
          event.preventDefault()
          importFolder.mutate(folder, { onError: (error) => message.error(error.message) })
        }}
      >
        <label htmlFor="folder">Or a folder on this computer, inside the import folder</label>
        <div className={styles.row}>
          <Input id="folder" value={folder} onChange={(e) => setFolder(e.target.value)} placeholder="such as card-3/nib" />
          <Button htmlType="submit" loading={importFolder.isPending}>
            Import
          </Button>
        </div>
      </form>
    </div>
  )
}

/** How far the dropped files are, and which were refused and why; it stays until the next drop. */
function BatchReport({ total, taken, refused }: Batch) {
  if (total === 0) return null
  const done = taken + refused.length === total
  return (
    <div className={styles.batch} role="log">
      <p>{done ? `${taken} of ${total} files imported.` : `Importing file ${taken + refused.length + 1} of ${total} …`}</p>
      {refused.map((sentence) => (
        <Alert key={sentence} type="error" showIcon title={sentence} />
      ))}
    </div>
  )
}
