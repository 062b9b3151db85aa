import type { ReactNode } from 'react'
import styles from './practice.module.css'

interface Props {
  /** Whether there is an answer to mark; undefined once it was marked. */
  ready?: boolean
  onMark: () => void
  label?: string
  error: string
  /** Buttons that stand before it until then. */
  children?: ReactNode
}

/** The end of a try: the answer is handed in; or what went wrong on the way. */
export function MarkIt({ ready, onMark, label = 'Mark it', error, children }: Props) {
  return (
    <>
      {ready !== undefined && (
        <div className={styles.buttons}>
          {children}
          <button type="button" className={styles.main} disabled={!ready} onClick={onMark}>
            {label}
          </button>
        </div>
      )}
      {error && <p role="alert">▲ {error}</p>}
    </>
  )
}
