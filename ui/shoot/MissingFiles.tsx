'use client'

import { Alert, Button, Upload } from 'antd'
import type { RunDetail } from '@/schemas'
import { FRAME_ENDINGS } from '@/core/batch'
import { message } from '../messages'
import { fetchJson, useCommand } from '../api'

/** Frames whose files are gone or damaged, and the way to put them back: the same files, known by their checksum. */
export function MissingFiles({ run, shootId }: { run: RunDetail; shootId: number }) {
  const missing = run.frames.filter(({ here }) => !here)
  const put = useCommand(shootId, (file: File) =>
    fetchJson(`/api/runs/${run.id}/frames?name=${encodeURIComponent(file.name)}`, { method: 'PUT', body: file }),
  )
  if (missing.length === 0) return null
  const names = missing.slice(0, 3).map(({ name }) => name)
  const more = missing.length > names.length ? ` and ${missing.length - names.length} more` : ''
  return (
    <Alert
      type="error"
      showIcon
      title={`${missing.length === 1 ? 'A file is' : `${missing.length} files are`} missing: ${names.join(', ')}${more}. Bring the same files again to put them back.`}
      action={
        <Upload
          multiple
          showUploadList={false}
          accept={FRAME_ENDINGS}
          customRequest={({ file }) => void put.mutateAsync(file as File).catch((error: Error) => message.error(error.message))}
        >
          <Button loading={put.isPending}>Choose files</Button>
        </Upload>
      }
    />
  )
}
