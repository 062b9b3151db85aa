import { Button } from 'antd'
import type { ReactNode } from 'react'
import { durationText, significant } from '@/core/units'
import styles from './shoot.module.css'

interface Props {
  /** What is being imported, where it has a name. */
  what?: string
  total: number
  /** Taken or refused. */
  through: number
  paused?: boolean
  pace?: { rate_MBps: number; left_s: number } | null
  onPause: (paused: boolean) => void
  /** What else can be done. */
  children?: ReactNode
}

/** How far an import is, how fast it goes and how long the rest takes; and the way to have it rest. */
export function ImportProgress({ what, total, through, paused, pace, onPause, children }: Props) {
  const rest = pace ? ` ${significant(pace.rate_MBps, 2)} MB a second, about ${durationText(pace.left_s)} left.` : ''
  const of = what ? ` of ${what}` : ''
  return (
    <div className={styles.progress}>
      <p>
        {paused
          ? `Paused: ${through} of ${total} files${of} are through.`
          : `Importing file ${Math.min(through + 1, total)} of ${total}${of} …${rest}`}
      </p>
      <Button onClick={() => onPause(!paused)}>{paused ? 'Go on' : 'Pause'}</Button>
      {children}
    </div>
  )
}
