'use client'

import { Modal, Select } from 'antd'
import { useState } from 'react'
import { useShoots } from '../api'

/** Asks which shoot to put into a backup of its own, as it is sent to a colleague. */
export function OneShootBackup({ onMake, onClose }: { onMake: (shoot: number) => void; onClose: () => void }) {
  const shoots = useShoots()
  const [shoot, setShoot] = useState<number>()
  return (
    <Modal
      open
      title="Back up one shoot"
      okText="Make the backup"
      okButtonProps={{ disabled: shoot === undefined }}
      onOk={() => {
        if (shoot !== undefined) onMake(shoot)
        onClose()
      }}
      onCancel={onClose}
    >
      <p>The ZIP file holds this shoot with its plan, frames and renders. Others restore it on their own computer.</p>
      <Select
        aria-label="Shoot"
        placeholder="Choose a shoot"
        style={{ width: '100%' }}
        loading={shoots.isPending}
        value={shoot}
        onChange={setShoot}
        options={shoots.data?.map(({ id, title }) => ({ value: id, label: title }))}
      />
    </Modal>
  )
}
