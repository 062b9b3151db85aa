'use client'

import { Modal } from 'antd'
import { KEY_WORDS } from './useKeys'
import styles from './mend.module.css'

/** Every key of the screen and what it does. */
export function KeySheet({ onClose }: { onClose: () => void }) {
  return (
    <Modal open title="Keys" footer={null} onCancel={onClose}>
      <dl className={styles.keySheet}>
        {KEY_WORDS.map(([keys, does]) => (
          <div key={keys}>
            <dt>{keys}</dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </Modal>
  )
}
