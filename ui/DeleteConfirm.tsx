'use client'

import { Modal } from 'antd'
import type { BinKind } from '@/schemas'
import { useDelete } from './api'
import { message } from './messages'
import { Themed } from './shell/Themed'

export interface DeleteProps {
  kind: BinKind
  id: number
  /** What it is, for the question and for those who do not see where the button stands: `run 2`. */
  what: string
  disabled?: boolean
}

/** The question before something goes to the bin. */
export function DeleteConfirm({ kind, id, what, onClose }: DeleteProps & { onClose: () => void }) {
  const remove = useDelete()
  const onOk = () =>
    remove.mutate(
      { kind, id },
      {
        onSuccess: () => message.success('Moved to the bin. You find it under Storage.'),
        onError: (error) => message.error(error.message),
        onSettled: onClose,
      },
    )
  return (
    <Themed>
      <Modal open title={`Delete ${what}?`} okText="Move to the bin" confirmLoading={remove.isPending} onOk={onOk} onCancel={onClose}>
        It stays in the bin for 30 days.
      </Modal>
    </Themed>
  )
}
