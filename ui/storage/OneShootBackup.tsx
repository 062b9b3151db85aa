'use client'

import { Modal } from 'antd'
import { useState } from 'react'
import { ShootSelect } from '../ShootSelect'
import styles from './storage.module.css'

/** Asks which shoot to put into a backup of its own, as it is sent to a colleague. */
export function OneShootBackup({ onMake, onClose }: { onMake: (shoot: number) => void; onClose: () => void }) {
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
      <ShootSelect className={styles.whole} label="Shoot" onChange={setShoot} />
    </Modal>
  )
}
