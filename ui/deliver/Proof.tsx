'use client'

import { useEffect, useRef, useState, type ReactNode } from 'react'
import type { Sheet } from './sheet'
import type { Shown } from './useProof'
import styles from './deliver.module.css'

interface Props {
  shown?: Shown
  /** Where pictures are laid as they come, without the rest of the screen. */
  sheet: Sheet
  label: string
  /** What lies over the picture, told how large it is on the screen. */
  children?: (size: { width: number; height: number }) => ReactNode
}

/** Of the window's height a proof takes so much at the most, so that its sentences stay beside it. */
const MOST_HIGH = 0.74

/** The picture as it will be delivered, as large as there is room. */
export function Proof({ shown, sheet, label, children }: Props) {
  const host = useRef<HTMLDivElement>(null)
  const [room, setRoom] = useState({ width: 0, height: 0 })
  useEffect(() => {
    const measure = () => setRoom({ width: host.current?.clientWidth ?? 0, height: Math.max(240, MOST_HIGH * window.innerHeight) })
    const observer = new ResizeObserver(measure)
    observer.observe(host.current!)
    window.addEventListener('resize', measure)
    measure()
    return () => {
      observer.disconnect()
      window.removeEventListener('resize', measure)
    }
  }, [])
  const scale = shown ? Math.min(room.width / shown.width, room.height / shown.height) : 0
  const size = shown ? { width: Math.floor(shown.width * scale), height: Math.floor(shown.height * scale) } : { width: 0, height: 0 }
  return (
    <div ref={host} className={styles.proof}>
      <div style={size} className={styles.sheet}>
        <canvas ref={sheet.use} role="img" aria-label={label} data-testid="proof" style={size} />
        {size.width > 0 && children?.(size)}
      </div>
    </div>
  )
}
