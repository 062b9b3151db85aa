'use client'

import { DeleteOutlined } from '@ant-design/icons'
import { App, Button, Popconfirm } from 'antd'
import type { BinKind } from '@/schemas'
import { useDelete } from './api'

interface Props {
  kind: BinKind
  id: number
  /** What it is, for the question and for those who do not see the icon: `run 2`. */
  what: string
  disabled?: boolean
  onDeleted?: () => void
}

/** Puts something into the bin, after a question; it stays there for 30 days. */
export function DeleteButton({ kind, id, what, disabled, onDeleted }: Props) {
  const { message } = App.useApp()
  const remove = useDelete()
  return (
    <Popconfirm
      title={`Delete ${what}?`}
      description="It stays in the bin for 30 days."
      okText="Delete"
      onConfirm={() =>
        remove.mutate(
          { kind, id },
          {
            onSuccess: () => {
              void message.success(`Moved to the bin. You find it under Storage.`)
              onDeleted?.()
            },
            onError: (error) => void message.error(error.message),
          },
        )
      }
    >
      <Button type="text" size="small" icon={<DeleteOutlined />} aria-label={`Delete ${what}`} disabled={disabled} loading={remove.isPending} />
    </Popconfirm>
  )
}
