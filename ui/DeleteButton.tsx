'use client'

import dynamic from 'next/dynamic'
import { useState } from 'react'
import type { DeleteProps } from './DeleteConfirm'
import styles from './deleteButton.module.css'

const DeleteConfirm = dynamic(() => import('./DeleteConfirm').then((part) => part.DeleteConfirm), { ssr: false })

/** Puts something into the bin, after a question; it stays there for 30 days. The question is loaded when it is asked. */
export function DeleteButton(props: DeleteProps) {
  const [asking, setAsking] = useState(false)
  return (
    <>
      <button type="button" className={styles.button} disabled={props.disabled} onClick={() => setAsking(true)}>
        Delete<span> {props.what}</span>
      </button>
      {asking && <DeleteConfirm {...props} onClose={() => setAsking(false)} />}
    </>
  )
}
