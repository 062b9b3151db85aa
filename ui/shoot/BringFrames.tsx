'use client'

import { Alert, Button, Input, Upload } from 'antd'
import PQueue from 'p-queue'
import { useRef, useState } from 'react'
import { useQueryClient } from '@tanstack/react-query'
import { sortBySize } from '@/core/batch'
import { say } from '@/core/words'
import { message } from '../messages'
import { fetchJson, send } from '../api'
import { sizeOf } from './sizeOf'
import styles from './shoot.module.css'

/** While one file is checked the next one travels. */
const AT_ONCE = 3

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

interface Props {
  /** The shoot they belong to, made now where there is none yet. */
  shootOf: () => Promise<number>
  /** All were looked at; at least one was taken. */
  onDone?: (shootId: number) => void
}

/** Brings the photographer's own frames into a run of their own: dropped files, or a folder of the server's machine. */
export function BringFrames({ shootOf, onDone }: Props) {
  const client = useQueryClient()
  const [folder, setFolder] = useState('')
  const [busy, setBusy] = useState(false)
  const [batch, setBatch] = useState<Batch>({ total: 0, taken: 0, refused: [] })
  const dropped = useRef<File[]>([])

  const begin = async (work: (runId: number) => Promise<number>) => {
    setBusy(true)
    try {
      const shootId = await shootOf()
      const { id } = await send<{ id: number }>(`/api/shoots/${shootId}/runs`, 'POST')
      const taken = await work(id)
      await client.invalidateQueries({ queryKey: ['shoot', shootId] })
      if (taken > 0) onDone?.(shootId)
    } catch (error) {
      message.error((error as Error).message)
    } finally {
      setBusy(false)
    }
  }

  const upload = async (files: File[]) => {
    // Sizes are looked at before anything is stored: frames of a series are all of one size.
    const sized = await Promise.all(files.map(async (file) => ({ file, name: file.name, size: await sizeOf(file) })))
    const { kept, strays } = sortBySize(sized)
    const refused = strays.map(({ file: { name }, size, usual }) => say('frame.stray', { name, size, usual }).text)
    setBatch({ total: files.length, taken: 0, refused })
    if (kept.length === 0) return
    await begin(async (runId) => {
      let taken = 0
      const bring = async (file: File) => {
        try {
          await fetchJson(`/api/runs/${runId}/frames?name=${encodeURIComponent(file.name)}`, { method: 'PUT', body: file })
          taken++
          setBatch((before) => ({ ...before, taken: before.taken + 1 }))
        } catch (error) {
          setBatch((before) => ({ ...before, refused: [...before.refused, (error as Error).message] }))
        }
      }
      await new PQueue({ concurrency: AT_ONCE }).addAll(
        kept.map(
          ({ file }) =>
            () =>
              bring(file),
        ),
      )
      return taken
    })
  }

  const importFolder = () =>
    begin(async (runId) => {
      const { taken, refused } = await send<FolderImport>(`/api/runs/${runId}/folder`, 'POST', { folder })
      setBatch({ total: taken + refused.length, taken, refused: refused.map(({ text }) => text) })
      return taken
    })

  return (
    <div className={styles.bring}>
      <Upload.Dragger
        multiple
        disabled={busy}
        accept=".jpg,.jpeg,.png,.tif,.tiff"
        showUploadList={false}
        // All files of a drop are handed over with each of them: the first brings the whole.
        beforeUpload={(file, files) => {
          if (file === files[0] && dropped.current !== files) {
            dropped.current = files
            void upload(files)
          }
          return Upload.LIST_IGNORE
        }}
      >
        <p className={styles.drop}>Drop frames here, or click to choose them</p>
        <p className={styles.quiet}>JPEG, PNG or TIFF, 8 or 16 bit. The originals are kept untouched.</p>
      </Upload.Dragger>
      <BatchReport {...batch} />
      <form
        className={styles.folder}
        onSubmit={(event) => {
          event.preventDefault()
          void importFolder()
        }}
      >
        <label htmlFor="folder">Or a folder on this computer, inside the import folder</label>
        <div className={styles.row}>
          <Input id="folder" value={folder} onChange={(e) => setFolder(e.target.value)} placeholder="such as card-3/nib" />
          <Button htmlType="submit" loading={busy}>
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
