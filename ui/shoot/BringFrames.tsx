'use client'

import { Alert, Button, Input, Upload } from 'antd'
import { useRef, useState } from 'react'
import { useQueryClient } from '@tanstack/react-query'
import { FRAME_ENDINGS, LEAST_TO_SPLIT } from '@/core/batch'
import { message } from '../messages'
import { send } from '../api'
import { ImportProgress } from './ImportProgress'
import { importKey } from './useImport'
import { useBringing, type Batch } from './useBringing'
import styles from './shoot.module.css'

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
  const { batch, bring, pause } = useBringing()
  const dropped = useRef<File[]>([])

  /** Makes the shoot where there is none yet and works on it; what goes wrong is said. */
  const withShoot = async (work: (shootId: number) => Promise<void>) => {
    setBusy(true)
    try {
      await work(await shootOf())
    } catch (error) {
      message.error((error as Error).message)
    } finally {
      setBusy(false)
    }
  }

  const begin = (work: (runId: number) => Promise<number>) =>
    withShoot(async (shootId) => {
      const { id } = await send<{ id: number }>(`/api/shoots/${shootId}/runs`, 'POST')
      const taken = await work(id)
      await client.invalidateQueries({ queryKey: ['shoot', shootId] })
      if (taken >= LEAST_TO_SPLIT) await send(`/api/runs/${id}/split`, 'POST')
      if (taken > 0) onDone?.(shootId)
    })

  const importFolder = () =>
    withShoot(async (shootId) => {
      await send(`/api/shoots/${shootId}/import`, 'POST', { folder })
      await client.invalidateQueries({ queryKey: importKey(shootId) })
      onDone?.(shootId)
    })

  const watchFolder = () =>
    withShoot(async (shootId) => {
      await send(`/api/shoots/${shootId}/watch`, 'POST', { folder })
      await client.invalidateQueries({ queryKey: ['watch', shootId] })
      onDone?.(shootId)
    })

  return (
    <div className={styles.bring}>
      <Upload.Dragger
        multiple
        disabled={busy}
        accept={FRAME_ENDINGS}
        showUploadList={false}
        // All files of a drop are handed over with each of them: the first brings the whole.
        beforeUpload={(file, files) => {
          if (file === files[0] && dropped.current !== files) {
            dropped.current = files
            void bring(files, begin)
          }
          return Upload.LIST_IGNORE
        }}
      >
        <p className={styles.drop}>Drop frames here, or click to choose them</p>
        <p className={styles.quiet}>Raw files, JPEG, PNG or TIFF. The originals are kept untouched.</p>
      </Upload.Dragger>
      <BatchReport {...batch} onPause={pause} />
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
          <Button disabled={busy} onClick={() => void watchFolder()}>
            Watch
          </Button>
        </div>
        <p className={styles.quiet}>Import takes what is there. Watch takes each new frame as a tethering program or card reader puts it there.</p>
      </form>
    </div>
  )
}

/** How far the dropped files are, and which were refused and why; it stays until the next drop. */
function BatchReport({ total, taken, refused, paused, pace, onPause }: Batch & { onPause: (paused: boolean) => void }) {
  if (total === 0) return null
  const through = taken + refused.length
  return (
    <div className={styles.batch} role="log">
      {through === total ? (
        <p>{`${taken} of ${total} files imported.`}</p>
      ) : (
        <ImportProgress total={total} through={through} paused={paused} pace={pace} onPause={onPause} />
      )}
      {refused.map((sentence) => (
        <Alert key={sentence} type="error" showIcon title={sentence} />
      ))}
    </div>
  )
}
