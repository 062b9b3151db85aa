'use client'

import { useEffect, useLayoutEffect, useRef, useState, type ReactNode } from 'react'
import type { Shown } from './useProof'
import styles from './deliver.module.css'

interface Props {
  shown?: Shown
  label: string
  /** What lies over the picture, told how large it is on the screen. */
  children?: (size: { width: number; height: number }) => ReactNode
}

/** Of the window's height a proof takes so much at the most, so that its sentences stay beside it. */
const MOST_HIGH = 0.74

/** The picture as it will be delivered, as large as there is room. */
export function Proof({ shown, label, children }: Props) {
  const host = useRef<HTMLDivElement>(null)
  const canvas = useRef<HTMLCanvasElement>(null)
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
  const bitmap = shown?.bitmap
  // Before the browser paints: a frame later a dragged handle would be ahead of the picture.
  useLayoutEffect(() => {
    if (!bitmap || !canvas.current) return
    Object.assign(canvas.current, { width: bitmap.width, height: bitmap.height })
    canvas.current.getContext('2d')!.drawImage(bitmap, 0, 0)
  }, [bitmap])
  const scale = bitmap ? Math.min(room.width / bitmap.width, room.height / bitmap.height) : 0
  const size = bitmap ? { width: Math.floor(bitmap.width * scale), height: Math.floor(bitmap.height * scale) } : { width: 0, height: 0 }
  return (
    <div ref={host} className={styles.proof}>
      <div style={size} className={styles.sheet}>
        <canvas ref={canvas} role="img" aria-label={label} data-testid="proof" style={size} />
        {size.width > 0 && children?.(size)}
      </div>
    </div>
  )
}
