import type { ButtonHTMLAttributes } from 'react'
import styles from './touchButton.module.css'

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  look?: 'primary' | 'plain' | 'text'
}

/** A button for a thumb out of doors. The browser's own: a phone with a poor connection has less to load. */
export function TouchButton({ look = 'plain', className = '', ...rest }: Props) {
  return <button type="button" className={`${styles.button} ${styles[look]} ${className}`} {...rest} />
}
