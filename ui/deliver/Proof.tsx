'use client'

import { useEffect, useLayoutEffect, useRef, useState, type ReactNode, type RefObject } from 'react'
import type { Shown } from './useProof'
import styles from './deliver.module.css'

interface Props {
  shown?: Shown
  /** Handed what shows a bitmap at once, without the rest of the screen. */
  draw: RefObject<((bitmap: ImageBitmap) => void) | undefined>
  label: string
  /** What lies over the picture, told how large it is on the screen. */
  children?: (size: { width: number; height: number }) => ReactNode
}

/** Of the window's height a proof takes so much at the most, so that its sentences stay beside it. */
const MOST_HIGH = 0.74

/** The picture as it will be delivered, as large as there is room. */
export function Proof({ shown, draw, label, children }: Props) {
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
  const drawn = useRef<ImageBitmap>(undefined)
  useLayoutEffect(() => {
    const show = (next: ImageBitmap) => {
      if (!canvas.current || drawn.current === next) return
      Object.assign(canvas.current, { width: next.width, height: next.height })
      canvas.current.getContext('2d')!.drawImage(next, 0, 0)
      drawn.current = next
    }
    draw.current = show
    // Before the browser paints: a frame later a dragged handle would be ahead of the picture.
    if (bitmap) show(bitmap)
  }, [bitmap, draw])
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
